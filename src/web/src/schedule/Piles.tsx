import { Box } from '@mui/material';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { type DueBy, hours, shortDay } from './words';

const tall = 42;

/** What falls due, week by week: a pile for each row, and the hours that people have below them. */
export function Piles({ board, by }: { board: Schema['DueBoard']; by: DueBy }) {
  const most = Math.max(1, ...board.rows.flatMap((row) => row.piles.map((pile) => pile.items)));
  const columns = `minmax(140px, 2.1fr) repeat(${board.weeks.length}, minmax(38px, 1fr))`;
  return (
    <Box tabIndex={0} role="group" aria-label="Weeks" sx={{ overflowX: 'auto' }}>
      <Box
        role="table"
        aria-label="What falls due, week by week"
        sx={{ minWidth: 170 + 42 * board.weeks.length }}
      >
        <Box role="row" sx={{ display: 'grid', gridTemplateColumns: columns, color: c.muted, fontSize: 14 }}>
          <Box role="columnheader">Week of</Box>
          {board.weeks.map((week) => (
            <Box key={week} role="columnheader" sx={{ textAlign: 'center', fontWeight: 600 }}>
              {shortDay(week)}
            </Box>
          ))}
        </Box>
        {board.rows.map((row) => (
          <Box
            key={row.key}
            role="row"
            sx={{
              display: 'grid',
              gridTemplateColumns: columns,
              borderTop: `1px solid ${c.line}`,
              alignItems: 'end',
              minHeight: tall + 8,
            }}
          >
            <Box role="rowheader" sx={{ alignSelf: 'center', py: 0.5, pr: 1, minWidth: 0 }}>
              <Box sx={{ fontWeight: 600, lineHeight: 1.2, overflowWrap: 'anywhere' }}>{row.name}</Box>
              {row.under && (
                <Box
                  title={row.under}
                  sx={{
                    color: c.muted,
                    fontSize: 13.5,
                    lineHeight: 1.25,
                    whiteSpace: 'nowrap',
                    overflow: 'hidden',
                    textOverflow: 'ellipsis',
                  }}
                >
                  {row.under}
                </Box>
              )}
            </Box>
            {row.piles.map((pile, at) => (
              <Pile
                key={board.weeks[at]}
                pile={pile}
                most={most}
                name={`${row.name}, week of ${shortDay(board.weeks[at]!)}`}
                to={by === 'site' && at === 0 && pile.over > 0 ? '/register?due=overdue' : null}
              />
            ))}
          </Box>
        ))}
        {board.hours && <Hours of={board.hours} columns={columns} weeks={board.weeks} />}
      </Box>
    </Box>
  );
}

function Pile(props: { pile: Schema['DuePile']; most: number; name: string; to: string | null }) {
  const { pile } = props;
  if (pile.items === 0) return <Box role="cell" aria-label={`${props.name}: nothing`} />;
  // By the root: a pile of four hundred beside one of four leaves the four to be seen.
  const height = 14 + Math.sqrt(pile.items / props.most) * (tall - 14);
  const text =
    `${pile.items} due, ${hours(pile.minutes)}` + (pile.over > 0 ? `, ${pile.over} past their date` : '');
  const heap = (
    <Box
      title={text}
      sx={{
        mx: 'auto',
        width: '82%',
        maxWidth: 64,
        height,
        borderRadius: '9px 9px 0 0',
        bgcolor: c.willow,
        overflow: 'hidden',
        display: 'flex',
        flexDirection: 'column',
        justifyContent: 'flex-end',
        position: 'relative',
      }}
    >
      {pile.over > 0 && (
        <Box sx={{ bgcolor: c.fail, height: `${Math.max(18, (100 * pile.over) / pile.items)}%` }} />
      )}
      <Box
        component="span"
        sx={{
          position: 'absolute',
          inset: 0,
          display: 'grid',
          placeItems: 'center',
          fontWeight: 700,
          fontSize: 14,
          color: pile.over > pile.items / 2 ? c.surface : c.ink,
        }}
      >
        {pile.items}
      </Box>
    </Box>
  );
  return (
    <Box role="cell" aria-label={`${props.name}: ${text}`}>
      {props.to ? (
        <Link to={props.to} style={{ textDecoration: 'none', color: 'inherit' }} aria-label={text}>
          {heap}
        </Link>
      ) : (
        heap
      )}
    </Box>
  );
}

/** The work of a week as a bar that stands up to its gate post: what people have, planned rounds taken off. */
function Hours(props: { of: readonly Schema['WeekHours'][]; columns: string; weeks: readonly string[] }) {
  const most = Math.max(60, ...props.of.map((week) => Math.max(week.due, week.free + week.taken)));
  const up = (minutes: number) => (minutes / most) * tall;
  return (
    <Box
      role="row"
      sx={{
        display: 'grid',
        gridTemplateColumns: props.columns,
        borderTop: `2px solid ${c.bark}`,
        pt: 1,
        alignItems: 'end',
      }}
    >
      <Box role="rowheader" sx={{ alignSelf: 'center', pr: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Bench hours</Box>
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>due, against what people have</Box>
      </Box>
      {props.of.map((week, at) => {
        const has = week.free + week.taken;
        const text = `${hours(week.due)} fall due, people have ${hours(has)}, ${hours(week.taken)} of it planned`;
        const isMuch = week.due > has;
        return (
          <Box
            key={props.weeks[at]}
            role="cell"
            aria-label={`Week of ${shortDay(props.weeks[at]!)}: ${text}`}
            title={text}
          >
            <Box sx={{ position: 'relative', height: tall, mx: 'auto', width: '82%', maxWidth: 64 }}>
              <Box
                sx={{
                  position: 'absolute',
                  bottom: 0,
                  left: 0,
                  right: 0,
                  height: `${Math.max(1, up(week.due))}px`,
                  bgcolor: isMuch ? c.fail : c.willow,
                  borderRadius: '3px 3px 0 0',
                }}
              />
              <Box
                sx={{
                  position: 'absolute',
                  bottom: `${up(has) - 1}px`,
                  left: '-9%',
                  right: '-9%',
                  height: 3,
                  bgcolor: c.ink,
                }}
              />
            </Box>
            <Box
              sx={{
                textAlign: 'center',
                fontSize: 13,
                fontWeight: isMuch ? 700 : 400,
                color: isMuch ? c.fail : c.bark,
                // On a phone a week is narrower than its two figures: they stand below one another.
                lineHeight: 1.25,
              }}
            >
              {(week.due / 60).toFixed(1)} of {(has / 60).toFixed(0)}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
