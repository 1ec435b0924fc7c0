import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Competences } from './Competences';
import { LinkMade } from './LinkMade';
import { PersonForm } from './PersonForm';
import { roleWords } from './roles';
import { useMe } from './SignedIn';

type Person = Schema['PersonRow'];

/** The house's accounts, for leads. What is changed here holds from the person's next request on. */
export default function People() {
  usePageTitle('People');
  const [made, setMade] = useState<{ who: string; link: Schema['InviteLink'] } | null>(null);
  const [isInviting, setIsInviting] = useState(false);
  const page = useQuery({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/v1/people')) });
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Fetching the people" />;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, display: 'grid', gap: 2.5, maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap' }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          People
        </Typography>
        <Button variant="contained" onClick={() => setIsInviting(true)} disabled={isInviting}>
          Invite somebody
        </Button>
      </Box>
      {made && <LinkMade who={made.who} link={made.link} onClose={() => setMade(null)} />}
      {isInviting && (
        <PersonForm
          clients={page.data.clients}
          onDone={(who, link) => {
            setIsInviting(false);
            if (link) setMade({ who, link });
          }}
        />
      )}
      <Table size="small" sx={{ bgcolor: c.surface }}>
        <TableHead>
          <TableRow>
            <TableCell>Name</TableCell>
            <TableCell>Role</TableCell>
            <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' } }}>Signs in</TableCell>
            <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }}>Last seen</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {page.data.people.map((person) => (
            <Row
              key={person.id}
              person={person}
              clients={page.data.clients}
              onLink={(link) => setMade({ who: person.displayName, link })}
            />
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function Row({
  person,
  clients,
  onLink,
}: {
  person: Person;
  clients: Schema['ClientName'][];
  onLink: (link: Schema['InviteLink']) => void;
}) {
  const me = useMe();
  const queries = useQueryClient();
  const [isOpen, setIsOpen] = useState(false);
  const done = () => queries.invalidateQueries({ queryKey: ['people'] });
  const path = { path: { personId: person.id } };
  const change = useMutation({
    mutationFn: async (what: 'link' | 'close' | 'reopen' | 'sign-out' | 'drop-two-step') => {
      if (what === 'link') onLink(await ask(api.POST('/api/v1/people/{personId}/link', { params: path })));
      else await ask(api.POST(`/api/v1/people/{personId}/${what}`, { params: path }));
    },
    onSettled: done,
  });
  const isMe = person.id === me.id;
  return (
    <>
      <TableRow
        sx={{ '& td': { color: person.isClosed ? c.muted : undefined, verticalAlign: 'top', py: 1.25 } }}
      >
        <TableCell>
          <strong>{person.displayName}</strong>
          {isMe && ' (you)'}
          <Box sx={{ color: c.muted, fontSize: 13.5, overflowWrap: 'anywhere' }}>
            {person.userName} · {person.initials}
            <Box component="span" sx={{ display: { xs: 'inline', sm: 'none' } }}>
              {' '}
              · {signsIn(person)}
            </Box>
          </Box>
        </TableCell>
        <TableCell>
          {roleWords[person.role]}
          {person.clients.length > 0 && (
            <Box sx={{ color: c.muted, fontSize: 13.5 }}>{person.clients.join(', ')}</Box>
          )}
        </TableCell>
        <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' } }}>{signsIn(person)}</TableCell>
        <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }}>
          {person.seenAt ? `${showDate(person.seenAt)}, ${showTime(person.seenAt)}` : 'never'}
          {person.sessions > 0 && (
            <Box sx={{ color: c.muted, fontSize: 13.5 }}>
              signed in on {person.sessions} {person.sessions === 1 ? 'browser' : 'browsers'}
            </Box>
          )}
        </TableCell>
        <TableCell align="right">
          <Button
            size="small"
            color="inherit"
            aria-expanded={isOpen}
            aria-label={`Change ${person.displayName}`}
            onClick={() => setIsOpen(!isOpen)}
          >
            {isOpen ? 'Leave it' : 'Change'}
          </Button>
        </TableCell>
      </TableRow>
      {isOpen && (
        <TableRow>
          <TableCell colSpan={5} sx={{ bgcolor: c.raised }}>
            <PersonForm person={person} clients={clients} onDone={() => setIsOpen(false)} />
            <Box sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap', mt: 1.5 }}>
              {!person.isDemo && !person.isClosed && (
                <Button size="small" variant="outlined" onClick={() => change.mutate('link')}>
                  {person.hasPassword
                    ? 'Take the password away and make a link for a new one'
                    : 'Make a new link'}
                </Button>
              )}
              {person.sessions > 0 && (
                <Button
                  size="small"
                  variant="outlined"
                  color="inherit"
                  onClick={() => change.mutate('sign-out')}
                >
                  Sign out everywhere
                </Button>
              )}
              {(person.hasTwoStep || person.passkeys > 0) && (
                <Button
                  size="small"
                  variant="outlined"
                  color="inherit"
                  onClick={() => change.mutate('drop-two-step')}
                >
                  {person.passkeys > 0 ? 'Take codes and passkeys off' : 'Take the phone’s codes off'}
                </Button>
              )}
              <Button
                size="small"
                variant="outlined"
                color={person.isClosed ? 'inherit' : 'error'}
                onClick={() => change.mutate(person.isClosed ? 'reopen' : 'close')}
              >
                {person.isClosed ? 'Open the account again' : 'Close the account'}
              </Button>
            </Box>
            {person.role !== 'viewer' && !person.isClosed && (
              <Competences personId={person.id} name={person.displayName} />
            )}
            {change.error && (
              <Box sx={{ mt: 1.5 }}>
                <Notice problem={change.error} />
              </Box>
            )}
          </TableCell>
        </TableRow>
      )}
    </>
  );
}

function signsIn(person: Person) {
  if (person.isClosed) return 'closed';
  if (person.isDemo) return 'by the demo’s door';
  if (!person.hasPassword) return 'not yet: the link waits';
  return `${person.hasTwoStep ? 'password and code' : 'password'}${person.passkeys > 0 ? ', or passkey' : ''}`;
}
