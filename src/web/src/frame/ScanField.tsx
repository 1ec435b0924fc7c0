import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { api, ask, Problem } from '../api/client';
import { c } from '../design/tokens';
import { isCovered } from './covered';
import { inHand } from './inHand';
import { onScan } from './scanner';
import { offerScan } from './scanTaker';
import { useMe } from '../people/SignedIn';
import { useRoundInHand } from './roundInHand';

const isTyping = (element: Element | null) =>
  element instanceof HTMLElement &&
  (element.matches('input, textarea, select, [role=combobox], [role=dialog] *') || element.isContentEditable);

/** A finger brings the tablet's own keyboard up with every focus; scans arrive without one. */
const hasFinePointer = () => window.matchMedia('(pointer: fine)').matches;

/**
 * Where a scanned or typed tag goes, on every screen. While something is half done a scan says what lies on the bench and offers to park
 * it;
 * while a voltage is on it does nothing but say so.
 */
export function ScanField() {
  const [tag, setTag] = useState('');
  const [waiting, setWaiting] = useState<{ title: string; go: () => void } | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [round] = useRoundInHand();
  const isReader = useMe().role === 'viewer';
  const scan = useMutation({
    mutationFn: (sent: string) =>
      ask(
        api.GET('/api/v1/register/scan', {
          params: { query: { tag: sent, ...(round ? { round: round.id } : {}) } },
        }),
      ),
    onSuccess: (found) => {
      setTag('');
      const known = found.item ?? found.elsewhere[0];
      if (isReader) return known && navigate(`/register/${known.itemId}`);
      if (found.item?.roundId) void navigate(`/rounds/${found.item.roundId}/bench/${found.item.itemId}`);
      else if (found.elsewhere.length > 0) void navigate(`/register/${found.elsewhere[0]!.itemId}`);
      else if (round) void navigate(`/rounds/${round.id}/new?tag=${encodeURIComponent(found.tag)}`);
    },
  });
  const { mutate } = scan;
  const came = useRef<(scanned: string) => void>(() => {});
  useEffect(() => {
    came.current = (scanned: string) => {
      const open = inHand();
      setTold(null);
      if (!open && offerScan(scanned)) return;
      if (open?.isBusy())
        return setTold(`${open.tag} is being measured: stop it first. The scan of ${scanned} was not used.`);
      if (open && scanned.toLowerCase() === open.tag.toLowerCase())
        return setTold(`${open.tag} lies on the bench already.`);
      if (open?.takesTag) return open.takesTag(scanned);
      if (open?.hasWork())
        return setWaiting({
          title: `${scanned} was scanned, and ${open.tag} lies on the bench`,
          go: () => mutate(scanned),
        });
      mutate(scanned);
    };
  });
  const withoutTag = () => {
    const open = inHand();
    const go = () => void navigate(`/rounds/${round!.id}/loose`);
    setTold(null);
    if (open?.isBusy()) return setTold(`${open.tag} is being measured: stop it first.`);
    if (open?.hasWork()) return setWaiting({ title: `${open.tag} lies on the bench`, go });
    go();
  };
  useEffect(
    () =>
      onScan(
        (scanned) => {
          // What a hand left there belongs to no tag, and would keep the bench's own keys from the sheet.
          setTag('');
          came.current(scanned);
        },
        () => setTold('A scan came in two parts and was not used: scan it again.'),
      ),
    [],
  );

  useEffect(() => {
    const settle = () => {
      if (hasFinePointer() && !isTyping(document.activeElement) && !isCovered())
        field.current?.focus({ preventScroll: true });
    };
    // A new page has no field of its own in use yet.
    if (pathname) settle();
    // Only after a pointer was used: whoever works by keyboard keeps the focus where it is.
    const later = (event: PointerEvent) => {
      if (event.pointerType === 'mouse') setTimeout(settle, 0);
    };
    document.addEventListener('click', later);
    return () => document.removeEventListener('click', later);
  }, [pathname]);

  const trouble = scan.error instanceof Problem ? (scan.error.detail ?? scan.error.message) : null;
  const unknownNoRound = scan.data && !scan.data.item && scan.data.elsewhere.length === 0 && !round;
  const said =
    told ??
    trouble ??
    (unknownNoRound
      ? isReader
        ? 'This tag is on nothing that you may read.'
        : 'This tag is not known. Choose a round on Today first, then it can be registered.'
      : null);
  return (
    <Box
      component="form"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        if (!tag.trim()) return;
        const typed = tag.trim();
        setTag('');
        came.current(typed);
      }}
      sx={{
        position: 'relative',
        display: 'flex',
        flex: '0 1 440px',
        minWidth: { xs: 126, sm: 260 },
      }}
    >
      <Box
        component="input"
        ref={field}
        id="scan"
        value={tag}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
          setTag(event.target.value);
          setTold(null);
          scan.reset();
        }}
        placeholder="Scan or type a tag"
        aria-label="Scan or type a tag"
        autoComplete="off"
        spellCheck={false}
        sx={{
          width: '100%',
          height: 44,
          px: 1.75,
          font: 'inherit',
          fontSize: 17,
          color: c.ink,
          bgcolor: c.raised,
          border: `2px solid ${c.edge}`,
          borderRadius: '6px',
          '&:focus': { outline: 'none', borderColor: c.slate },
          '&::placeholder': { color: c.muted, opacity: 1 },
        }}
      />
      {round && !isReader && (
        <Button
          color="inherit"
          onClick={withoutTag}
          title="Measure it first, name it later"
          sx={{
            flexShrink: 0,
            minWidth: 0,
            // On a phone the two words stand one above the other: the field needs the room.
            width: { xs: 36, sm: 'auto' },
            ml: { xs: '6px', sm: 0 },
            whiteSpace: { xs: 'normal', sm: 'nowrap' },
            px: { xs: 0, sm: 1.25 },
            fontSize: { xs: 13, sm: 14 },
            lineHeight: 1.1,
          }}
        >
          No tag
        </Button>
      )}
      {said && (
        <Box
          role="alert"
          sx={{
            position: 'absolute',
            top: 50,
            left: 0,
            zIndex: 10,
            width: 'min(380px, 88vw)',
            bgcolor: c.raised,
            border: `2px solid ${c.fail}`,
            borderRadius: '6px',
            p: 1.5,
            boxShadow: 3,
          }}
        >
          {said}
        </Box>
      )}
      {waiting !== null && (
        <LeaveFirst
          title={waiting.title}
          onStay={() => setWaiting(null)}
          onLeft={() => {
            setWaiting(null);
            waiting.go();
          }}
        />
      )}
    </Box>
  );
}

function LeaveFirst({ title, onStay, onLeft }: { title: string; onStay: () => void; onLeft: () => void }) {
  const open = inHand();
  if (!open) return null;
  return (
    <Dialog open onClose={onStay} aria-labelledby="leave-title">
      <DialogTitle id="leave-title">{title}</DialogTitle>
      <DialogContent>{open.text}</DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onStay}>
          Stay with {open.tag}
        </Button>
        <Button variant="contained" onClick={() => void open.leave().then(onLeft)}>
          {open.leaveText}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
