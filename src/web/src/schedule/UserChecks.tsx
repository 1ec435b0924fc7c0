import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useNumberOf } from '../frame/useNumberOf';
import { Waiting } from '../frame/Waiting';
import { shortDay } from './words';

/** The first of the three tiers: what the people who use the items look over, by site and week, and what nobody has told of. */
export function UserChecks({ client, weeks }: { client: string; weeks: number }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const board = useQuery({
    queryKey: ['schedule', 'users', weeks, client],
    queryFn: ({ signal }) =>
      ask(
        api.GET('/api/v1/user-checks/weeks', {
          params: { query: { weeks, ...(client ? { client } : {}) } },
          signal,
        }),
      ),
    placeholderData: (previous) => previous,
  });
  if (board.error && !board.data)
    return <Notice problem={board.error} onAgain={() => void board.refetch()} />;
  if (!board.data) return <Waiting what="Looking what users look over" />;
  const { rows } = board.data;
  if (rows.length === 0)
    return <Typography sx={{ color: c.bark, py: 4 }}>Of nothing here are its users asked a look.</Typography>;
  const dated = rows.filter((row) => row.piles.some((pile) => pile.looks > 0));
  const others = rows.filter((row) => !dated.includes(row));
  const open =
    dated.find((row) => row.siteId === chosen) ?? dated.find((row) => row.piles[0]!.late > 0) ?? dated[0];
  return (
    <Box>
      <Box sx={{ color: c.bark, mb: 1 }}>
        {board.data.dated} looked over by date, of {board.data.late} nobody told in time · {board.data.atUse}{' '}
        before each use or issue. It takes no bench time: their users look, and say so by the item’s code or
        here.
      </Box>
      {open && <Weeks board={board.data} rows={dated} open={open.siteId} onOpen={setChosen} />}
      {others.length > 0 && (
        <Box sx={{ color: c.muted, mt: 1, fontSize: 14.5 }}>
          Before each use or issue alone:{' '}
          {others.map((row) => `${row.name} (${row.under}) ${row.atUse}`).join(' · ')}
        </Box>
      )}
      {open && <SiteChecks key={open.siteId} site={open} />}
    </Box>
  );
}

function Weeks(props: {
  board: Schema['UserCheckBoard'];
  rows: readonly Schema['UserCheckRow'][];
  open: string;
  onOpen: (siteId: string) => void;
}) {
  const { board } = props;
  const columns = `minmax(150px, 2.1fr) minmax(64px, 1fr) repeat(${board.weeks.length}, minmax(38px, 1fr))`;
  return (
    <Box tabIndex={0} role="group" aria-label="Weeks" sx={{ overflowX: 'auto' }}>
      <Box
        role="table"
        aria-label="User checks, week by week"
        sx={{ minWidth: 230 + 42 * board.weeks.length }}
      >
        <Box role="row" sx={{ display: 'grid', gridTemplateColumns: columns, color: c.muted, fontSize: 14 }}>
          <Box role="columnheader">Week of</Box>
          <Box role="columnheader" sx={{ textAlign: 'center' }}>
            each use
          </Box>
          {board.weeks.map((week) => (
            <Box key={week} role="columnheader" sx={{ textAlign: 'center', fontWeight: 600 }}>
              {shortDay(week)}
            </Box>
          ))}
        </Box>
        {props.rows.map((row) => (
          <Box
            key={row.siteId}
            role="row"
            sx={{
              display: 'grid',
              gridTemplateColumns: columns,
              borderTop: `1px solid ${c.line}`,
              alignItems: 'center',
              bgcolor: row.siteId === props.open ? c.paper : undefined,
            }}
          >
            <Box role="rowheader" sx={{ minWidth: 0 }}>
              <Button
                color="inherit"
                aria-pressed={row.siteId === props.open}
                onClick={() => props.onOpen(row.siteId)}
                sx={{ textAlign: 'left', justifyContent: 'flex-start', py: 0.5, px: 1.25, width: '100%' }}
              >
                <Box sx={{ minWidth: 0 }}>
                  <Box sx={{ fontWeight: 600, lineHeight: 1.2 }}>{row.name}</Box>
                  <Box
                    sx={{
                      color: row.siteId === props.open ? c.ink : c.muted,
                      fontSize: 13.5,
                      fontWeight: 400,
                      lineHeight: 1.25,
                    }}
                  >
                    {row.under}
                  </Box>
                </Box>
              </Button>
            </Box>
            <Box role="cell" sx={{ textAlign: 'center', color: c.muted }}>
              {row.atUse || ''}
            </Box>
            {row.piles.map((pile, at) => (
              <Box
                key={board.weeks[at]}
                role="cell"
                aria-label={`${row.name}, week of ${shortDay(board.weeks[at]!)}: ${saidOf(pile)}`}
                title={saidOf(pile)}
                sx={{ textAlign: 'center', fontWeight: 600 }}
              >
                {pile.looks || ''}
                {pile.late > 0 && (
                  <Box sx={{ color: c.fail, fontSize: 13, lineHeight: 1.1 }}>{pile.late} not told</Box>
                )}
              </Box>
            ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const saidOf = (pile: Schema['UserCheckPile']) =>
  pile.looks === 0
    ? 'nothing'
    : `${pile.looks} to look over` + (pile.late > 0 ? `, of ${pile.late} nobody told in time` : '');

/** What is to be looked over at one site this week, said good with one press. */
function SiteChecks({ site }: { site: Schema['UserCheckRow'] }) {
  const list = useQuery({
    queryKey: ['schedule', 'users', 'site', site.siteId],
    queryFn: ({ signal }) =>
      ask(
        api.GET('/api/v1/user-checks/sites/{siteId}', { params: { path: { siteId: site.siteId } }, signal }),
      ),
  });
  return (
    <Box component="section" aria-label={`To look over at ${site.name}`} sx={{ mt: 2.5 }}>
      <Typography variant="h2">{site.name}: to look over this week</Typography>
      {list.error && <Notice problem={list.error} onAgain={() => void list.refetch()} />}
      {!list.data && !list.error && <Waiting what="Fetching them" />}
      {list.data?.total === 0 && (
        <Box sx={{ color: c.bark, py: 1 }}>Nothing more this week: everything was looked over in time.</Box>
      )}
      {list.data?.items.map((it) => (
        <ToDo key={it.itemId} it={it} />
      ))}
      {list.data && list.data.total > list.data.items.length && (
        <Box sx={{ color: c.bark, mt: 1 }}>
          and {list.data.total - list.data.items.length} more, once these are told of.
        </Box>
      )}
    </Box>
  );
}

function ToDo({ it }: { it: Schema['UserCheckToDo'] }) {
  const queries = useQueryClient();
  const [wrong, setWrong] = useState<'damaged' | 'dangerous' | null>(null);
  const [words, setWords] = useState('');
  const number = useNumberOf();
  const tell = useMutation({
    mutationFn: (report: Schema['UserReport']) => {
      // What was typed and cancelled is not said of what is good.
      const said = { report, words: report === 'allGood' ? '' : words, name: '' };
      return ask(
        api.POST('/api/v1/register/{itemId}/user-checks', {
          params: { path: { itemId: it.itemId } },
          body: { ...said, id: number.of(JSON.stringify(said)) },
        }),
      );
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['schedule', 'users'] });
      await queries.invalidateQueries({ queryKey: ['item', it.itemId] });
    },
  });
  return (
    <Box
      component="article"
      aria-label={`${it.tag} ${it.name}`}
      sx={{
        display: 'flex',
        gap: 1,
        rowGap: 0.5,
        flexWrap: 'wrap',
        alignItems: 'center',
        borderTop: `1px solid ${c.line}`,
        py: 1,
      }}
    >
      <Box sx={{ flex: '1 1 260px', minWidth: 0 }}>
        <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
          {it.tag} {it.name}
        </Link>
        <Box sx={{ color: c.muted, fontSize: 14 }}>
          {it.room} · {it.rhythm} ·{' '}
          {it.lastOn ? `last looked over ${showDate(it.lastOn)}` : 'nobody told of a look yet'}
        </Box>
      </Box>
      <Box
        sx={{
          color: it.isLate ? c.fail : c.bark,
          fontWeight: it.isLate ? 600 : 400,
          minWidth: 170,
          textAlign: { sm: 'right' },
        }}
      >
        {it.isLate ? 'was due by' : 'by'} {showDate(it.due)}
      </Box>
      {wrong === null ? (
        <>
          <Button
            size="small"
            variant="contained"
            disabled={tell.isPending || tell.isSuccess}
            aria-label={`${it.tag}: looked over, good`}
            onClick={() => tell.mutate('allGood')}
          >
            Looked over: good
          </Button>
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            disabled={tell.isPending || tell.isSuccess}
            aria-label={`${it.tag}: something is wrong`}
            onClick={() => setWrong('damaged')}
          >
            Something is wrong
          </Button>
        </>
      ) : (
        <Box
          component="form"
          aria-label={`What is wrong with ${it.tag}`}
          onSubmit={(event) => {
            event.preventDefault();
            if (words.trim()) tell.mutate(wrong);
          }}
          sx={{ flexBasis: '100%', display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
        >
          <TextField
            size="small"
            autoFocus
            label="What is wrong"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            sx={{ flex: '1 1 220px' }}
            slotProps={{ htmlInput: { maxLength: 500, autoComplete: 'off' } }}
          />
          <Button
            color="error"
            variant={wrong === 'dangerous' ? 'contained' : 'outlined'}
            aria-pressed={wrong === 'dangerous'}
            onClick={() => setWrong(wrong === 'dangerous' ? 'damaged' : 'dangerous')}
          >
            Dangerous: out of use at once
          </Button>
          <Button
            type="submit"
            variant="contained"
            disabled={!words.trim() || tell.isPending || tell.isSuccess}
          >
            Report it
          </Button>
          <Button color="inherit" onClick={() => setWrong(null)}>
            Cancel
          </Button>
        </Box>
      )}
      {tell.error && <Notice problem={tell.error} />}
    </Box>
  );
}
