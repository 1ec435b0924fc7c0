import { Box, Button, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { HouseEditor } from './HouseEditor';

/** One standard as a page: the caution, its limits by test, the flex table it reckons with, and how the house came to be stricter. */
export function StandardSheet({ id }: { id: string }) {
  const [find, setFind] = useState('');
  const page = useQuery({
    queryKey: ['standards', id],
    queryFn: () => ask(api.GET('/api/v1/standards/{id}', { params: { path: { id } } })),
  });
  if (page.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Box sx={{ bgcolor: c.surface }} />;
  const { card, groups } = page.data;
  const words = find.toLowerCase().split(' ').filter(Boolean);
  const meets = (row: Schema['LimitRow'], group: string) => {
    const text = `${group} ${row.what} ${row.clause} ${row.remark ?? ''} ${row.text}`.toLowerCase();
    return words.every((word) => text.includes(word));
  };
  const shown = groups
    .map((group) => ({ ...group, rows: group.rows.filter((row) => meets(row, group.name)) }))
    .filter((group) => group.rows.length > 0);
  return (
    <Box sx={{ bgcolor: c.surface, p: { xs: 2, md: 3 }, minWidth: 0 }}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        <Box sx={{ flex: 1, minWidth: 300 }}>
          <Typography variant="h1" sx={{ lineHeight: 1.2 }}>
            {card.name}
          </Typography>
          <Box sx={{ color: c.bark, mt: 0.75 }}>
            {card.country}
            {card.nominalV && ` · ${card.nominalV} V, ${card.hertz} Hz`}
            {page.data.scaleTo !== 1 &&
              `, leakage scaled to ${Math.round(page.data.scaleTo * 100)} % of it`}{' '}
            · {card.scope ? 'pack' : 'version'} {card.version}
          </Box>
        </Box>
        <TextField
          size="small"
          label="Find a limit"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          sx={{ width: 220 }}
        />
      </Box>
      <Box
        role="note"
        sx={{ borderLeft: `4px solid ${c.advice}`, pl: 1.5, my: 2, color: c.bark, maxWidth: '110ch' }}
      >
        {page.data.checkNote}
      </Box>
      {shown.length === 0 && (
        <Box sx={{ color: c.bark, py: 3 }}>
          No limit speaks of “{find}”.{' '}
          <Button size="small" onClick={() => setFind('')}>
            Show all
          </Button>
        </Box>
      )}
      {shown.map((group) => (
        <Group key={group.name} group={group} page={page.data} />
      ))}
      {words.length === 0 && <Tables page={page.data} />}
      {words.length === 0 && page.data.changes.length > 0 && <Changes changes={page.data.changes} />}
    </Box>
  );
}

function Group({ group, page }: { group: Schema['LimitGroup']; page: Schema['StandardPage'] }) {
  return (
    <Box component="section" aria-label={group.name} sx={{ mb: 3 }}>
      <Typography
        variant="h2"
        sx={{
          pb: 0.75,
          borderBottom: `2px solid ${c.bark}`,
          display: 'flex',
          alignItems: 'baseline',
          gap: 1.5,
        }}
      >
        {group.name}
        {group.test === 'earthContinuity' && page.earthSource && (
          <Box component="span" sx={{ color: c.muted, fontSize: 14, fontWeight: 400 }}>
            {page.earthSource}
          </Box>
        )}
      </Typography>
      {group.rows.map((row) => (
        <Row key={row.id} row={row} page={page} />
      ))}
    </Box>
  );
}

function Row({ row, page }: { row: Schema['LimitRow']; page: Schema['StandardPage'] }) {
  const [editing, setEditing] = useState(false);
  return (
    <Box sx={{ borderBottom: `1px solid ${c.line}`, py: 0.75 }}>
      <Box
        sx={{
          display: 'grid',
          alignItems: 'center',
          columnGap: 2,
          minHeight: 40,
          gridTemplateColumns: {
            xs: 'minmax(0, 1fr) auto',
            lg: 'minmax(0, 12fr) minmax(0, 8fr) minmax(0, 8fr) 88px',
          },
        }}
      >
        <Box sx={{ minWidth: 0, gridColumn: { xs: '1 / -1', lg: 'auto' } }}>
          <Box sx={{ lineHeight: 1.3 }}>{row.what}</Box>
          {row.remark && <Box sx={{ color: c.bark, fontSize: 14, lineHeight: 1.4 }}>{row.remark}</Box>}
        </Box>
        <Box sx={{ minWidth: 0, gridColumn: { xs: '1 / -1', lg: 'auto' } }}>
          <Box
            sx={{
              fontWeight: row.house ? 400 : 700,
              color: row.house ? c.muted : c.ink,
              textDecoration: row.house ? 'line-through' : 'none',
              lineHeight: 1.3,
            }}
          >
            {row.text}
          </Box>
          {row.house && (
            <Box sx={{ lineHeight: 1.35 }}>
              <strong>{row.house.text}</strong>{' '}
              <Box component="span" sx={{ color: c.bark, fontSize: 13.5 }}>
                house: {row.house.reason}
              </Box>
            </Box>
          )}
        </Box>
        <Box sx={{ color: c.muted, fontSize: 14, lineHeight: 1.35, gridColumn: { xs: '1', lg: 'auto' } }}>
          {row.clause}
        </Box>
        <Box sx={{ textAlign: 'right', gridColumn: { xs: '2', lg: 'auto' } }}>
          {page.mayEdit && row.units.length > 0 && !editing && (
            <Button
              size="small"
              color={row.house ? 'primary' : 'inherit'}
              onClick={() => setEditing(true)}
              aria-label={`${row.house ? 'Change the house limit of' : 'Tighten'} ${row.what}`}
            >
              {row.house ? 'Change' : 'Tighten'}
            </Button>
          )}
        </Box>
      </Box>
      {editing && (
        <HouseEditor
          standardId={page.card.id}
          says={page.card.scope ? 'The standard' : 'The rule'}
          row={row}
          onClose={() => setEditing(false)}
        />
      )}
    </Box>
  );
}

/** What the pack reckons with beside its limits. */
function Tables({ page }: { page: Schema['StandardPage'] }) {
  if (page.flex.length === 0 && page.leads.length === 0 && !page.fuseRule) return null;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 4, mb: 3 }}>
      {page.flex.length > 0 && (
        <Figures
          title="Flexible copper, R at 20 °C"
          heads={['mm²', 'mΩ per metre', 'carries']}
          rows={page.flex.map((it) => [
            String(it.mm2),
            String(it.milliohmPerMetre),
            it.carriesA === null || it.carriesA === undefined ? '' : `${it.carriesA} A`,
          ])}
        />
      )}
      <Box>
        {page.leads.length > 0 && (
          <Figures
            title="Extension leads, longest without an RCD"
            heads={['mm²', 'up to', '']}
            rows={page.leads.map((it) => [String(it.mm2), `${it.upToM} m`, it.remark ?? ''])}
          />
        )}
        {page.fuseRule && (
          <Box sx={{ mt: page.leads.length > 0 ? 3 : 0 }}>
            <Typography variant="h2">Plug fuse</Typography>
            <Box sx={{ mt: 0.5, color: c.bark, maxWidth: '52ch' }}>{page.fuseRule}</Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Figures({ title, heads, rows }: { title: string; heads: string[]; rows: string[][] }) {
  return (
    <Box
      component="table"
      sx={{
        borderCollapse: 'collapse',
        width: '100%',
        maxWidth: 460,
        '& th, & td': { textAlign: 'right', py: 0.5, pr: 2, borderBottom: `1px solid ${c.line}` },
        '& th': { color: c.muted, fontWeight: 400, fontSize: 13.5 },
        '& td:last-of-type, & th:last-of-type': { textAlign: 'left' },
      }}
    >
      <Box component="caption" sx={{ textAlign: 'left', fontWeight: 700, fontSize: '1.15rem', pb: 0.5 }}>
        {title}
      </Box>
      <thead>
        <tr>
          {heads.map((head, i) => (
            <th key={i} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row[0]}>
            {row.map((cell, i) => (
              <td key={i}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

function Changes({ changes }: { changes: readonly Schema['ChangeRow'][] }) {
  return (
    <Box component="section" aria-label="How the house limits came to be">
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        How the house limits came to be
      </Typography>
      {changes.map((it) => (
        <Box key={it.revision} sx={{ display: 'flex', gap: 2, py: 0.5, flexWrap: 'wrap' }}>
          <Box sx={{ color: c.muted, minWidth: 132 }}>
            {it.revision}. {showDate(it.at)}
          </Box>
          <Box sx={{ flex: 1, minWidth: 260 }}>
            {it.what}: <strong>{it.text ?? 'house limit lifted'}</strong>, {it.reason}{' '}
            <Box component="span" sx={{ color: c.muted }}>
              {it.by}
            </Box>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
