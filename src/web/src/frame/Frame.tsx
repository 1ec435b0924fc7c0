import { Box, IconButton, Tooltip } from '@mui/material';
import { useColorScheme } from '@mui/material/styles';
import { useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { useMe } from '../people/SignedIn';
import { ScanField } from './ScanField';
import { Wordmark } from './Wordmark';
import { useRoundInHand } from './roundInHand';

const rooms = [
  { to: '/', name: 'Today' },
  { to: '/register', name: 'Register' },
  { to: '/standards', name: 'Standards' },
  { to: '/signs', name: 'Signs' },
];

/** What stands around every screen: the name, the scan field, the rooms, and whose rules are in force. */
export function Frame({ children }: { children: ReactNode }) {
  const me = useMe();
  const queries = useQueryClient();
  const { mode, systemMode, setMode } = useColorScheme();
  const [round] = useRoundInHand();
  const isDark = (mode === 'system' ? systemMode : mode) === 'dark';
  const signOut = async () => {
    await ask(api.POST('/api/v1/people/sign-out'));
    queries.clear();
  };
  return (
    <Box sx={{ minHeight: '100dvh', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          bgcolor: c.surface,
          borderBottom: `1px solid ${c.line}`,
          display: 'flex',
          alignItems: 'center',
          columnGap: 2.5,
          rowGap: 0,
          px: 2.5,
          py: 1,
          flexWrap: { xs: 'wrap', md: 'nowrap' },
        }}
      >
        <NavLink to="/" aria-label="Osierwand, to Today" style={{ color: 'inherit', textDecoration: 'none' }}>
          <Wordmark />
        </NavLink>
        <ScanField />
        <Box component="nav" aria-label="Rooms" sx={{ display: 'flex' }}>
          {rooms.map((room) => (
            <Box
              key={room.to}
              component={NavLink}
              to={room.to}
              end={room.to === '/'}
              sx={{
                color: c.bark,
                textDecoration: 'none',
                px: 1.5,
                py: 1.25,
                borderBottom: '3px solid transparent',
                '&.active': { color: c.ink, fontWeight: 700, borderColor: c.reed },
                '&:hover': { color: c.ink },
              }}
            >
              {room.name}
            </Box>
          ))}
        </Box>
        <Box sx={{ flex: 1 }} />
        <Box
          sx={{
            textAlign: { xs: 'left', md: 'right' },
            lineHeight: 1.3,
            fontSize: 13.5,
            minWidth: 0,
            '& > *': { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
          }}
        >
          {round ? (
            <>
              <Box
                sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
              >
                {round.name}
              </Box>
              <Box sx={{ color: c.muted }}>
                {round.standard} · {me.displayName}
              </Box>
            </>
          ) : (
            <Box sx={{ color: c.muted }}>{me.displayName}</Box>
          )}
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
      <Box component="main" sx={{ flex: 1, display: 'flex', flexDirection: 'column', minWidth: 0 }}>
        {children}
      </Box>
    </Box>
  );
}
