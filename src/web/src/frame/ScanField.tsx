import { Box } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { api, ask, Problem } from '../api/client';
import { c } from '../design/tokens';
import { onScan } from './scanner';
import { useRoundInHand } from './roundInHand';

const isTyping = (element: Element | null) =>
  element instanceof HTMLElement &&
  (element.matches('input, textarea, select, [role=combobox], [role=dialog] *') || element.isContentEditable);

/**
 * Where a scanned or typed tag goes, on every screen. It takes the focus whenever nothing else needs it; while it is empty, Enter and
 * the number pad's signs belong to the screen.
 */
export function ScanField() {
  const [tag, setTag] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [round] = useRoundInHand();
  const scan = useMutation({
    mutationFn: (sent: string) =>
      ask(
        api.GET('/api/v1/register/scan', {
          params: { query: { tag: sent, ...(round ? { round: round.id } : {}) } },
        }),
      ),
    onSuccess: (found) => {
      setTag('');
      if (found.item?.roundId) void navigate(`/rounds/${found.item.roundId}/bench/${found.item.itemId}`);
      else if (found.elsewhere.length > 0) void navigate(`/register/${found.elsewhere[0]!.itemId}`);
      else if (round) void navigate(`/rounds/${round.id}/new?tag=${encodeURIComponent(found.tag)}`);
    },
  });
  const { mutate } = scan;
  useEffect(() => onScan((scanned) => mutate(scanned)), [mutate]);

  useEffect(() => {
    const settle = () => {
      if (!isTyping(document.activeElement) && !document.querySelector('[role=dialog]'))
        field.current?.focus({ preventScroll: true });
    };
    // A new page has no field of its own in use yet.
    if (pathname) settle();
    const later = () => setTimeout(settle, 0);
    document.addEventListener('click', later);
    document.addEventListener('osierwand:settle', later);
    return () => {
      document.removeEventListener('click', later);
      document.removeEventListener('osierwand:settle', later);
    };
  }, [pathname]);

  const trouble = scan.error instanceof Problem ? (scan.error.detail ?? scan.error.message) : null;
  const unknownNoRound = scan.data && !scan.data.item && scan.data.elsewhere.length === 0 && !round;
  return (
    <Box
      component="form"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        if (tag.trim()) scan.mutate(tag);
      }}
      sx={{ position: 'relative', flex: '0 1 330px', minWidth: 200 }}
    >
      <Box
        component="input"
        ref={field}
        id="scan"
        value={tag}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
          setTag(event.target.value);
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
          border: `2px solid ${c.line}`,
          borderRadius: '6px',
          '&:focus': { outline: 'none', borderColor: c.slate },
          '&::placeholder': { color: c.muted, opacity: 1 },
        }}
      />
      {(trouble || unknownNoRound) && (
        <Box
          role="alert"
          sx={{
            position: 'absolute',
            top: 50,
            left: 0,
            zIndex: 10,
            width: 380,
            bgcolor: c.raised,
            border: `2px solid ${c.fail}`,
            borderRadius: '6px',
            p: 1.5,
            boxShadow: 3,
          }}
        >
          {trouble ?? 'This tag is not known. Choose a round on Today first, then it can be registered.'}
        </Box>
      )}
    </Box>
  );
}
