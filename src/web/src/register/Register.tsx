import {
  Box,
  Button,
  MenuItem,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TableSortLabel,
  TextField,
  Typography,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useNavigate, useSearchParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import type { paths } from '../api/schema.gen';
import { showDate, showDue } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { states } from './words';

type Query = NonNullable<paths['/api/v1/register']['get']['parameters']['query']>;
type Order = NonNullable<Query['order']>;
type DueFilter = NonNullable<Query['due']>;

const columns: { order: Order; name: string; hideBelow?: 'md' | 'lg' }[] = [
  { order: 'tag', name: 'Tag' },
  { order: 'name', name: 'Item' },
  { order: 'place', name: 'Place', hideBelow: 'md' },
  { order: 'state', name: 'State', hideBelow: 'lg' },
  { order: 'lastTestedOn', name: 'Inspected', hideBelow: 'md' },
  { order: 'due', name: 'Due' },
];

const dues: Record<DueFilter, string> = {
  any: 'any',
  overdue: 'overdue',
  soon: 'soon',
  neverTested: 'never inspected',
};
const pageSize = 25;

/** All items. What is searched and how it is sorted stands in the address, so that a view can be kept and sent on. */
export default function Register() {
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const set = (changes: Record<string, string | null>) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        if (!('page' in changes)) after.delete('page');
        for (const [name, value] of Object.entries(changes))
          if (value) after.set(name, value);
          else after.delete(name);
        return after;
      },
      { replace: true },
    );
  const query = {
    search: params.get('search') ?? undefined,
    client: params.get('client') ?? undefined,
    state: (params.get('state') as Schema['ItemState'] | null) ?? undefined,
    due: (params.get('due') as DueFilter | null) ?? ('any' as const),
    order: (params.get('order') as Order | null) ?? ('due' as const),
    descending: params.get('descending') === 'yes',
    page: Number(params.get('page') ?? 0) || 0,
    pageSize,
  };
  const page = useQuery({
    queryKey: ['register', query],
    queryFn: ({ signal }) => ask(api.GET('/api/v1/register', { params: { query }, signal })),
    placeholderData: (previous) => previous,
  });
  const total = page.data?.total ?? 0;
  const pages = Math.max(1, Math.ceil(total / pageSize));
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, flex: 1, minWidth: 0 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ mr: 1 }}>
          Register
        </Typography>
        <TextField
          size="small"
          label="Search tag, item, place, maker, serial"
          sx={{ flex: '1 1 240px', maxWidth: 360 }}
          defaultValue={query.search ?? ''}
          onChange={(event) => set({ search: event.target.value })}
        />
        <Choice
          label="Client"
          value={query.client ?? ''}
          onChange={(value) => set({ client: value })}
          options={(page.data?.clients ?? []).map((it) => [it.code, it.name])}
          all="all clients"
        />
        <Choice
          label="State"
          value={query.state ?? ''}
          onChange={(value) => set({ state: value })}
          options={Object.entries(states)}
          all="any state"
        />
        <Choice
          label="Due"
          value={query.due === 'any' ? '' : query.due}
          onChange={(value) => set({ due: value })}
          options={Object.entries(dues).filter(([value]) => value !== 'any')}
          all="any date"
        />
      </Box>
      {page.error && <Notice problem={page.error} onAgain={() => void page.refetch()} />}
      <Box sx={{ overflowX: 'auto' }}>
        <Table size="small" aria-label="Items" aria-busy={page.isFetching}>
          <TableHead>
            <TableRow>
              <TableCell padding="checkbox" aria-label="Last verdict" />
              {columns.map((column) => (
                <TableCell
                  key={column.order}
                  sortDirection={query.order === column.order ? (query.descending ? 'desc' : 'asc') : false}
                  sx={{ fontWeight: 700, color: c.bark, ...hidden(column.hideBelow) }}
                >
                  <TableSortLabel
                    active={query.order === column.order}
                    direction={query.order === column.order && query.descending ? 'desc' : 'asc'}
                    onClick={() =>
                      set({
                        order: column.order,
                        descending: query.order === column.order && !query.descending ? 'yes' : null,
                      })
                    }
                  >
                    {column.name}
                  </TableSortLabel>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {page.data?.rows.map((row) => (
              <Row key={row.id} row={row} onOpen={() => void navigate(`/register/${row.id}`)} />
            ))}
          </TableBody>
        </Table>
      </Box>
      {page.data && total === 0 && (
        <Typography sx={{ p: 3, color: c.bark }}>
          No item fits these filters. Take one away, or scan a new tag to register it.
        </Typography>
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mt: 2, color: c.bark }}>
        <span role="status">{total === 1 ? '1 item' : `${total} items`}</span>
        <Box sx={{ flex: 1 }} />
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          disabled={query.page === 0}
          onClick={() => set({ page: String(query.page - 1) })}
        >
          Back
        </Button>
        <span>
          page {Math.min(query.page + 1, pages)} of {pages}
        </span>
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          disabled={query.page + 1 >= pages}
          onClick={() => set({ page: String(query.page + 1) })}
        >
          On
        </Button>
      </Box>
    </Box>
  );
}

const hidden = (below: 'md' | 'lg' | undefined) =>
  below ? { display: { xs: 'none', [below]: 'table-cell' } } : {};

function Row({ row, onOpen }: { row: Schema['RegisterRow']; onOpen: () => void }) {
  const over = (row.daysOver ?? 0) > 0 && row.state === 'inService';
  const gone = row.state === 'scrapped' || row.state === 'lost';
  return (
    <TableRow
      hover
      tabIndex={0}
      onClick={onOpen}
      onKeyDown={(event) => event.key === 'Enter' && onOpen()}
      sx={{ cursor: 'pointer', '& td': gone ? { color: c.muted } : {} }}
    >
      <TableCell padding="checkbox">
        <Ring state={row.lastOutcome ?? 'open'} size={22} />
      </TableCell>
      <TableCell sx={{ whiteSpace: 'nowrap' }}>{row.tag}</TableCell>
      <TableCell>
        <strong>{row.name}</strong>
        {row.makerModel && (
          <Box component="span" sx={{ color: c.muted }}>
            {' '}
            {row.makerModel}
          </Box>
        )}
      </TableCell>
      <TableCell sx={{ color: c.bark, ...hidden('md') }}>
        {row.place}
        <Box component="abbr" title={row.client} sx={{ color: c.muted, textDecoration: 'none' }}>
          {' '}
          · {row.clientCode}
        </Box>
      </TableCell>
      <TableCell
        sx={{
          color: row.state === 'quarantined' ? c.fail : c.bark,
          fontWeight: row.state === 'quarantined' ? 700 : 400,
          ...hidden('lg'),
        }}
      >
        {states[row.state]}
      </TableCell>
      <TableCell sx={{ whiteSpace: 'nowrap', ...hidden('md') }}>
        {row.lastTestedOn ? showDate(row.lastTestedOn) : '–'}
      </TableCell>
      <TableCell
        sx={{ whiteSpace: 'nowrap', color: over ? c.fail : 'inherit', fontWeight: over ? 700 : 400 }}
      >
        {gone ? '–' : row.due ? showDate(row.due) : 'at once'}
        {!gone && (over || row.due === null) && (
          <Box component="span" sx={{ fontWeight: 400 }}>
            , {showDue(row.daysOver)}
          </Box>
        )}
      </TableCell>
    </TableRow>
  );
}

function Choice(props: {
  label: string;
  value: string;
  all: string;
  options: [string, string][];
  onChange: (value: string) => void;
}) {
  return (
    <TextField
      select
      size="small"
      label={props.label}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
      sx={{ minWidth: 140 }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">{props.all}</MenuItem>
      {props.options.map(([value, text]) => (
        <MenuItem key={value} value={value}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}
