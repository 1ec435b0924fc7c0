import { Box, Button, Checkbox, TextField } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

type Competence = Schema['Competence'];
type Held = Schema['HeldCompetence'];

export const useCompetences = () =>
  useQuery({ queryKey: ['competences'], queryFn: () => ask(api.GET('/api/v1/people/competences')) });

/** What one person is competent to test: by what it is shown, and until when. */
export function Competences({ personId, name }: { personId: string; name: string }) {
  const page = useCompetences();
  const person = page.data?.people.find((it) => it.personId === personId);
  if (page.error) return <Notice problem={page.error} onAgain={() => void page.refetch()} />;
  if (!page.data || !person) return null;
  return (
    <Editor
      key={page.dataUpdatedAt}
      personId={personId}
      name={name}
      kinds={page.data.kinds}
      held={person.held}
    />
  );
}

function Editor(props: {
  personId: string;
  name: string;
  kinds: readonly Schema['CompetenceKind'][];
  held: readonly Schema['CompetenceCard'][];
}) {
  const queries = useQueryClient();
  const [held, setHeld] = useState<Held[]>(() =>
    props.held.map(({ competence, expiresOn, evidence }) => ({
      competence,
      expiresOn: expiresOn ?? null,
      evidence,
    })),
  );
  const send = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/people/{personId}/competences', {
          params: { path: { personId: props.personId } },
          body: { held },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['competences'] }),
  });
  const set = (competence: Competence, change: Partial<Held>) =>
    setHeld(held.map((it) => (it.competence === competence ? { ...it, ...change } : it)));
  return (
    <Box
      component="form"
      aria-label={`Competences of ${props.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
      sx={{ mt: 2 }}
    >
      <Box sx={{ fontWeight: 600 }}>Competent to test</Box>
      <Box sx={{ color: c.bark, fontSize: 14.5, mb: 0.5 }}>
        Whoever does not hold what an item asks for may look at it and not test it. Local law and licences
        come first.
      </Box>
      {props.kinds.map((kind) => {
        const own = held.find((it) => it.competence === kind.competence);
        return (
          <Box
            key={kind.competence}
            sx={{ display: 'flex', gap: 1.25, alignItems: 'center', flexWrap: 'wrap', py: 0.75 }}
          >
            <Checkbox
              checked={!!own}
              onChange={() =>
                setHeld(
                  own
                    ? held.filter((it) => it !== own)
                    : [...held, { competence: kind.competence, expiresOn: null, evidence: '' }],
                )
              }
              slotProps={{ input: { 'aria-label': kind.text } }}
            />
            <Box sx={{ width: 290 }}>{kind.text}</Box>
            {own && (
              <>
                <TextField
                  size="small"
                  label="Shown by"
                  value={own.evidence}
                  onChange={(event) => set(kind.competence, { evidence: event.target.value })}
                  slotProps={{ htmlInput: { maxLength: 300 } }}
                  sx={{ flex: 1, minWidth: 220 }}
                  required
                />
                <TextField
                  size="small"
                  type="date"
                  label="Until"
                  value={own.expiresOn ?? ''}
                  onChange={(event) => set(kind.competence, { expiresOn: event.target.value || null })}
                  slotProps={{ inputLabel: { shrink: true } }}
                  sx={{ width: 160 }}
                />
              </>
            )}
          </Box>
        );
      })}
      {send.error && <Notice problem={send.error} />}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
        <Button type="submit" size="small" variant="contained" disabled={send.isPending}>
          Keep the competences
        </Button>
        {send.isSuccess && (
          <Box role="status" sx={{ color: c.pass }}>
            Kept.
          </Box>
        )}
      </Box>
    </Box>
  );
}
