import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { WordsDialog } from '../bench/WordsDialog';
import { type LookChange, type LookList, ofAll } from './lookList';
import { LookPointForm } from './LookPointForm';

type Asking = { drop: Schema['LookPointCard'] } | { takeBack: number; text: string } | 'add' | null;

/** The list to look at, as it ships and as the house changed it. A lead adds points and drops them with a reason; nothing is forgotten. */
export function LookListSheet() {
  const queries = useQueryClient();
  const [asking, setAsking] = useState<Asking>(null);
  const list = useQuery({ queryKey: ['look-list'], queryFn: () => ask(api.GET('/api/v1/look-list')) });
  const change = useMutation({
    mutationFn: (it: LookChange) =>
      ask(api.POST('/api/v1/look-list', { body: { ...it, revision: list.data!.revision } })),
    onSuccess: (page) => {
      queries.setQueryData(['look-list'], page);
      setAsking(null);
    },
    onError: () => void list.refetch(),
  });
  if (list.error && !list.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={list.error} onAgain={() => void list.refetch()} />
      </Box>
    );
  if (!list.data) return <Waiting what="Fetching the list" />;
  const page = list.data;
  const wheres = [...new Set(page.points.map((it) => it.where))];
  return (
    <Box sx={{ bgcolor: c.surface, p: { xs: 2, md: 3 }, minWidth: 0 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        <Box sx={{ flex: 1, minWidth: 300 }}>
          <Typography variant="h1" sx={{ lineHeight: 1.2 }}>
            What is looked at
          </Typography>
          <Box sx={{ color: c.bark, mt: 0.75, maxWidth: '80ch' }}>
            Eight or nine faults in ten are found by eye and hand. The points asked follow from kind, class,
            plug and standard;{' '}
            {page.revision === 0
              ? 'this house has changed none.'
              : `this house’s list stands at its change ${page.revision}, which every record names.`}
          </Box>
        </Box>
        {page.mayChange && (
          <Button variant="outlined" color="inherit" onClick={() => setAsking('add')}>
            Add a point
          </Button>
        )}
      </Box>
      {change.error && (
        <Box sx={{ mt: 2 }}>
          <Notice problem={change.error} />
        </Box>
      )}
      {asking !== null && (asking === 'add' || 'drop' in asking) && (
        <LookPointForm
          key={asking === 'add' ? 'add' : asking.drop.id}
          page={page}
          dropped={asking === 'add' ? null : asking.drop}
          isBusy={change.isPending}
          onTake={(it) => change.mutate(it)}
          onClose={() => setAsking(null)}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '130px minmax(0, 1fr)' }, mt: 2 }}>
        {wheres.map((where) => (
          <Box key={where} sx={{ display: 'contents' }}>
            <Box sx={{ color: c.muted, pt: 1.5, borderTop: `1px solid ${c.line}` }}>{where}</Box>
            <Box sx={{ borderTop: `1px solid ${c.line}` }}>
              {page.points
                .filter((it) => it.where === where)
                .map((point) => (
                  <Point
                    key={point.id}
                    point={point}
                    mayChange={page.mayChange}
                    onDrop={() => setAsking({ drop: point })}
                    onTakeBack={(revision, text) => setAsking({ takeBack: revision, text })}
                  />
                ))}
            </Box>
          </Box>
        ))}
      </Box>
      {page.changes.length > 0 && <Changes changes={page.changes} />}
      {asking !== null && asking !== 'add' && 'takeBack' in asking && (
        <WordsDialog
          title={`Take back: ${asking.text}`}
          offered={[]}
          label="Why, in words"
          take="Take it back"
          note="What was stays in the list's story."
          onTake={(reason) => change.mutate({ ...empty, kind: 'takeBack', target: asking.takeBack, reason })}
          onClose={() => setAsking(null)}
        />
      )}
    </Box>
  );
}

const empty = { ...ofAll, pointId: null, target: null, where: null, text: null, phrases: [] };

function Point(props: {
  point: Schema['LookPointCard'];
  mayChange: boolean;
  onDrop: () => void;
  onTakeBack: (revision: number, text: string) => void;
}) {
  const { point, mayChange } = props;
  const isDropped = point.droppedFor.some((it) => it.for === '');
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-start', py: 1, flexWrap: 'wrap' }}>
      <Box sx={{ flex: '1 1 320px', minWidth: 0 }}>
        <Box
          sx={{
            textDecoration: isDropped ? 'line-through' : 'none',
            color: isDropped ? c.muted : c.ink,
            fontWeight: 500,
          }}
        >
          {point.text}
        </Box>
        <Box sx={{ color: c.muted, fontSize: 14 }}>
          {[point.for, point.revision && 'added by this house', point.phrases.join(' · ')]
            .filter(Boolean)
            .join('; ')}
        </Box>
        {point.droppedFor.map((it) => (
          <Box key={it.revision} sx={{ color: c.advice, fontSize: 14.5 }}>
            Not asked{it.for && ` of: ${it.for}`}. {it.reason} ({it.by}, {showDate(it.at)}){' '}
            {mayChange && (
              <Button size="small" color="inherit" onClick={() => props.onTakeBack(it.revision, point.text)}>
                Ask it again
              </Button>
            )}
          </Box>
        ))}
      </Box>
      {mayChange && point.revision && (
        <Button
          size="small"
          color="inherit"
          onClick={() => props.onTakeBack(point.revision!, point.text)}
          aria-label={`Take back ${point.text}`}
        >
          Take back
        </Button>
      )}
      {mayChange && !point.revision && !isDropped && (
        <Button size="small" color="inherit" onClick={props.onDrop} aria-label={`Drop ${point.text}`}>
          Drop
        </Button>
      )}
    </Box>
  );
}

function Changes({ changes }: { changes: LookList['changes'] }) {
  return (
    <Box component="section" aria-label="How the list came to be" sx={{ mt: 4, maxWidth: '90ch' }}>
      <Typography variant="h2">How the list came to be</Typography>
      {changes.map((it) => (
        <Box
          key={it.revision}
          sx={{ borderBottom: `1px solid ${c.line}`, py: 1, color: it.stands ? c.ink : c.muted }}
        >
          <strong>{it.revision}</strong> {it.text}
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            {showDate(it.at)}, {it.by}: {it.reason}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
