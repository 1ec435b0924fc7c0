import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { NavLink, useParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { LookListSheet } from './LookListSheet';
import { StandardSheet } from './StandardSheet';

/** In the place of a standard's number. */
const lookList = 'look-list';

/** In the order of the list; what all standards share has no scope of its own. */
const scopes: [Schema['PackScope'] | null, string][] = [
  ['appliances', 'Appliances'],
  ['medical', 'Medical equipment'],
  [null, 'Common to all'],
];

/** Every standard that ships, to be read like a page: its limits with clauses, and the house's own stricter ones. */
export default function Standards() {
  const { standardId } = useParams();
  const all = useQuery({ queryKey: ['standards'], queryFn: () => ask(api.GET('/api/v1/standards')) });
  if (all.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={all.error} onAgain={() => void all.refetch()} />
      </Box>
    );
  if (!all.data) return <Waiting what="Fetching the standards" />;
  const isLook = standardId === lookList;
  const open = isLook ? null : (all.data.find((it) => it.id === standardId) ?? all.data[0]!);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: '264px minmax(0, 1fr)' },
        flex: 1,
      }}
    >
      <Box
        component="nav"
        aria-label="Standards"
        sx={{
          py: 2.25,
          display: 'grid',
          alignContent: 'start',
          gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr', md: '1fr' },
          borderRight: { md: `1px solid ${c.line}` },
          borderBottom: { xs: `1px solid ${c.line}`, md: 0 },
        }}
      >
        {scopes.map(([scope, name]) => (
          <Box key={name} sx={{ mb: 2 }}>
            <Box sx={{ px: 2.5, color: c.muted, fontSize: 14, mb: 0.5 }}>{name}</Box>
            {all.data
              .filter((it) => (it.scope ?? null) === scope)
              .map((it) => (
                <Spine
                  key={it.id}
                  to={it.id}
                  name={it.shortName}
                  more={`${it.scope ? it.country : `${it.limits} figures`}${it.house > 0 ? ` · ${it.house} stricter here` : ''}`}
                  isOpen={it === open}
                />
              ))}
            {scope === null && (
              <Spine to={lookList} name="What is looked at" more="points by kind and plug" isOpen={isLook} />
            )}
          </Box>
        ))}
        <Typography sx={{ gridColumn: '1 / -1', px: 2.5, color: c.muted, fontSize: 13.5, lineHeight: 1.45 }}>
          Standards and rules are data, each with its version. A record keeps the versions it was judged by.
        </Typography>
      </Box>
      {open ? <StandardSheet key={open.id} id={open.id} /> : <LookListSheet />}
    </Box>
  );
}

function Spine({ to, name, more, isOpen }: { to: string; name: string; more: string; isOpen: boolean }) {
  return (
    <Box
      component={NavLink}
      to={`/standards/${to}`}
      aria-current={isOpen ? 'page' : undefined}
      sx={{
        display: 'block',
        px: 2.5,
        py: 1,
        minHeight: 44,
        color: isOpen ? c.ink : c.bark,
        textDecoration: 'none',
        boxShadow: isOpen ? `inset 6px 0 ${c.reed}` : 'none',
        bgcolor: isOpen ? c.surface : 'transparent',
        '&:hover': { color: c.ink },
      }}
    >
      <Box sx={{ fontWeight: isOpen ? 700 : 500, lineHeight: 1.25 }}>{name}</Box>
      <Box sx={{ color: c.muted, fontSize: 13.5 }}>{more}</Box>
    </Box>
  );
}
