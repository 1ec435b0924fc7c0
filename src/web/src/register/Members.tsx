import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { states } from './words';

/** What hangs on the multiple socket, by tag: scanned or typed one after the other. */
export function MemberTags(props: {
  tags: readonly string[];
  /** What they are called, by tag, of those that are known. */
  names?: Readonly<Record<string, string>>;
  onChange: (tags: string[]) => void;
}) {
  const [typed, setTyped] = useState('');
  const add = () => {
    const tag = typed.trim();
    setTyped('');
    if (tag !== '' && !props.tags.some((it) => it.toLowerCase() === tag.toLowerCase()))
      props.onChange([...props.tags, tag]);
  };
  return (
    <Box role="group" aria-label="Members" sx={{ display: 'grid', gap: 1 }}>
      {props.tags.map((tag) => (
        <Box key={tag} sx={{ display: 'flex', alignItems: 'center', borderBottom: `1px solid ${c.line}` }}>
          <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
            {tag}
            {props.names?.[tag] && <span style={{ color: c.muted }}> {props.names[tag]}</span>}
          </Box>
          <Button
            size="small"
            color="inherit"
            aria-label={`Take ${tag} out`}
            onClick={() => props.onChange(props.tags.filter((it) => it !== tag))}
          >
            Take out
          </Button>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          size="small"
          label="Tag of a member"
          value={typed}
          sx={{ flex: 1 }}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            // A scanner ends with it: the form is not sent by a scan.
            event.preventDefault();
            event.stopPropagation();
            add();
          }}
          onBlur={add}
        />
        <Button size="small" variant="outlined" color="inherit" onClick={add} sx={{ minHeight: 44 }}>
          Add
        </Button>
      </Box>
      {props.tags.length === 0 && (
        <Box sx={{ color: c.muted, fontSize: 14 }}>Scan each device that is plugged into its socket.</Box>
      )}
    </Box>
  );
}

/** On an item's page: the system it belongs to, or what belongs to it. */
export function SystemOf({ item, mayChange }: { item: Schema['ItemPage']; mayChange: boolean }) {
  const [isChanging, setIsChanging] = useState(false);
  if (item.partOf)
    return (
      <Box>
        <Box sx={{ color: c.muted, fontSize: 14 }}>Part of</Box>
        <Member it={item.partOf} />
        <Box sx={{ color: c.bark, fontSize: 14.5 }}>
          Tested by itself, and again as one with all that hangs on that socket.
        </Box>
      </Box>
    );
  if (!item.isSystem) return null;
  return (
    <Box component="section" aria-label="Members of this system">
      <Box sx={{ color: c.muted, fontSize: 14 }}>On its multiple socket</Box>
      {item.members.map((it) => (
        <Member key={it.id} it={it} />
      ))}
      {item.members.length === 0 && (
        <Box sx={{ color: c.advice, fontWeight: 600 }}>No member is named: it cannot be tested yet.</Box>
      )}
      {mayChange && (
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          sx={{ mt: 1 }}
          onClick={() => setIsChanging(true)}
        >
          Change the members
        </Button>
      )}
      {isChanging && <MembersDialog item={item} onClose={() => setIsChanging(false)} />}
    </Box>
  );
}

function Member({ it }: { it: Schema['MemberCard'] }) {
  const isOut = it.state !== 'inService';
  const isBad = isOut || (it.daysOver ?? 0) > 0;
  return (
    <Box sx={{ borderBottom: `1px solid ${c.line}`, py: 0.75, fontSize: 15 }}>
      <Link to={`/register/${it.id}`} style={{ color: 'inherit' }}>
        {it.name}, {it.tag}
      </Link>
      <Box sx={{ color: isBad ? c.fail : c.muted, fontWeight: isBad ? 700 : 400, fontSize: 14 }}>
        {isOut
          ? states[it.state]
          : `class ${it.classText}; its own test ${it.due ? `due ${showDate(it.due)}` : 'never done'}`}
      </Box>
    </Box>
  );
}

/** Another set of devices is another system: it is due, and what the old one leaked is no reference. */
function MembersDialog({ item, onClose }: { item: Schema['ItemPage']; onClose: () => void }) {
  const [tags, setTags] = useState(item.members.map((it) => it.tag));
  const queries = useQueryClient();
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/v1/register/{itemId}/members', {
          params: { path: { itemId: item.id } },
          body: { revision: item.revision, tags },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['item'] });
      onClose();
    },
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>What hangs on {item.tag}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <MemberTags
          tags={tags}
          names={Object.fromEntries(item.members.map((it) => [it.tag, it.name]))}
          onChange={setTags}
        />
        <Box sx={{ color: c.bark, fontSize: 14.5 }}>
          A system whose members changed is due at once, and its reference values begin anew.
        </Box>
        {save.error && <Notice problem={save.error} />}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Back
        </Button>
        <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate()}>
          These are its members
        </Button>
      </DialogActions>
    </Dialog>
  );
}
