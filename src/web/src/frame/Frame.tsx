import { Box, IconButton, Tooltip } from '@mui/material';
import { useColorScheme } from '@mui/material/styles';
import { type ReactNode, useEffect } from 'react';
import { NavLink, useLocation } from 'react-router';
import { c } from '../design/tokens';
import { useMe, useSignOut } from '../people/SignedIn';
import { BooksBanner } from '../trust/BooksBanner';
import { ScanField } from './ScanField';
import { watchScanner } from './scanner';
import { useFleets } from '../hire/useFleet';
import { Wordmark } from './Wordmark';
import { useRoundInHand } from './roundInHand';

const everyone = ['lead', 'technician', 'viewer'];
const rooms = [
  { to: '/', name: 'Today', for: ['lead', 'technician'] },
  { to: '/rounds', name: 'Rounds', for: ['lead', 'technician'] },
  { to: '/schedule', name: 'Schedule', for: everyone },
  { to: '/register', name: 'Register', for: everyone },
  { to: '/papers', name: 'Papers', for: everyone },
  { to: '/procedures', name: 'Procedures', for: ['lead', 'technician'] },
  { to: '/quarantine', name: 'Quarantine', for: everyone },
  { to: '/hire', name: 'Hire', for: everyone },
  { to: '/kit', name: 'Kit', for: ['lead', 'technician'] },
  { to: '/standards', name: 'Standards', for: everyone },
  { to: '/signs', name: 'Signs', for: everyone },
  { to: '/people', name: 'People', for: ['lead'] },
  { to: '/books', name: 'Books', for: ['lead'] },
];

/** What stands around every screen: the name, the scan field, the rooms on a line of their own, and whose rules are in force. */
export function Frame({ children }: { children: ReactNode }) {
  const me = useMe();
  const signOut = useSignOut();
  const isReader = me.role === 'viewer';
  // Of a house it is a room; of a client only where they keep a fleet.
  const fleets = useFleets(isReader);
  const hasFleet = !isReader || (fleets.data?.length ?? 0) > 0;
  const { mode, systemMode, setMode } = useColorScheme();
  const [round] = useRoundInHand();
  const isDark = (mode === 'system' ? systemMode : mode) === 'dark';
  useEffect(watchScanner, []);
  const { pathname } = useLocation();
  // Another room begins at its top, however far down the last one was read.
  useEffect(() => {
    if (pathname) window.scrollTo(0, 0);
  }, [pathname]);
  return (
    <Box sx={{ minHeight: '100dvh', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{ bgcolor: c.surface, borderBottom: `1px solid ${c.line}`, px: { xs: 1.5, md: 2.5 } }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: { xs: 1.25, md: 2.5 }, pt: 0.75 }}>
          <NavLink
            to="/"
            aria-label={me.role === 'viewer' ? 'Osierwand, to the Register' : 'Osierwand, to Today'}
            style={{ color: 'inherit', textDecoration: 'none' }}
          >
            <Wordmark />
          </NavLink>
          <ScanField />
          <Box sx={{ flex: 1 }} />
          <Box
            component={NavLink}
            to="/me"
            title="Your account"
            sx={{
              color: c.muted,
              fontSize: 13.5,
              whiteSpace: 'nowrap',
              py: 1.5,
              '&:hover': { color: c.ink },
            }}
          >
            <Box component="span" sx={{ display: { xs: 'none', sm: 'inline' } }}>
              {me.displayName}
            </Box>
            <Box component="span" sx={{ display: { xs: 'inline', sm: 'none' } }}>
              {me.initials}
            </Box>
          </Box>
          <Box sx={{ display: 'flex' }}>
            <Tooltip title={isDark ? 'Light, for the office' : 'Dark, for plant rooms'}>
              <IconButton
                aria-label={isDark ? 'Use light colours' : 'Use dark colours'}
                onClick={() => setMode(isDark ? 'light' : 'dark')}
                sx={{ width: 44, height: 44 }}
              >
                <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden>
                  <circle cx="10" cy="10" r="7.5" fill="none" stroke="currentColor" strokeWidth="2" />
                  <path d="M10 2.5 a7.5 7.5 0 0 1 0 15 z" fill="currentColor" />
                </svg>
              </IconButton>
            </Tooltip>
            <Tooltip title="Sign out">
              <IconButton aria-label="Sign out" onClick={() => void signOut()} sx={{ width: 44, height: 44 }}>
                <svg
                  width="20"
                  height="20"
                  viewBox="0 0 20 20"
                  aria-hidden
                  fill="none"
                  stroke="currentColor"
                  strokeWidth="2"
                  strokeLinecap="round"
                >
                  <path d="M8 3H4v14h4M9 10h8m-3-3 3 3-3 3" />
                </svg>
              </IconButton>
            </Tooltip>
          </Box>
        </Box>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minHeight: 44 }}>
          <Box
            component="nav"
            aria-label="Rooms"
            sx={{
              display: 'flex',
              overflowX: 'auto',
              // On a desk every room is in view; what is in hand gives way.
              flexGrow: 1,
              flexShrink: { xs: 1, lg: 0 },
              minWidth: 0,
              scrollbarWidth: 'none',
            }}
          >
            {rooms
              .filter((room) => room.for.includes(me.role) && (room.to !== '/hire' || hasFleet))
              .map((room) => (
                <Box
                  key={room.to}
                  component={NavLink}
                  to={room.to}
                  end={room.to === '/'}
                  sx={{
                    color: c.bark,
                    textDecoration: 'none',
                    px: { xs: 1.25, lg: 1 },
                    py: 1.25,
                    lineHeight: '20px',
                    whiteSpace: 'nowrap',
                    borderBottom: '3px solid transparent',
                    '&.active': { color: c.ink, fontWeight: 700, borderColor: c.reed },
                    '&:hover': { color: c.ink },
                  }}
                >
                  {room.name}
                </Box>
              ))}
          </Box>
          {round && (
            <Box
              sx={{
                display: { xs: 'none', sm: 'block' },
                fontSize: 13.5,
                color: c.muted,
                minWidth: 0,
                flex: '0 1 auto',
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}
            >
              <Box component="span" sx={{ fontWeight: 600, color: c.ink }}>
                {round.name}
              </Box>{' '}
              · {round.standard}
            </Box>
          )}
        </Box>
      </Box>
      {me.role !== 'viewer' && <BooksBanner />}
      <Box component="main" sx={{ flex: 1, display: 'flex', flexDirection: 'column', minWidth: 0 }}>
        {children}
      </Box>
    </Box>
  );
}
