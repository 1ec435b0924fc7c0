import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { WordsDialog } from '../bench/WordsDialog';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { EditProcedure } from './Editor';
import { StepText } from './StepText';
import { takeAlong } from './taken';

/** One procedure: what it does, what became of it version by version, and what may be done with it. */
export default function ProcedurePage() {
  const { procedureId = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const version = Number(params.get('version')) || undefined;
  const queries = useQueryClient();
  const goTo = useNavigate();
  const [isEditing, setIsEditing] = useState(false);
  const [asking, setAsking] = useState<'retire' | 'restore' | null>(null);
  const page = useQuery({
    queryKey: ['procedures', procedureId, version],
    queryFn: () =>
      ask(
        api.GET('/api/v1/procedures/{id}', {
          params: { path: { id: procedureId }, query: version ? { version } : {} },
        }),
      ),
    staleTime: 0,
  });
  const stand = useMutation({
    mutationFn: (sent: { to: 'retire' | 'restore'; reason: string }) =>
      ask(
        sent.to === 'retire'
          ? api.POST('/api/v1/procedures/{id}/retire', {
              params: { path: { id: procedureId } },
              body: { reason: sent.reason },
            })
          : api.POST('/api/v1/procedures/{id}/restore', {
              params: { path: { id: procedureId } },
              body: { reason: sent.reason },
            }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['procedures'] }),
  });
  usePageTitle(page.data?.procedure.name ?? 'Procedure');
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Opening the procedure" />;
  const { procedure, words, limits, newest, mayChange, retired } = page.data;
  if (isEditing)
    return (
      <EditProcedure
        procedure={procedure}
        basedOn={newest}
        onSaved={() => {
          setIsEditing(false);
          setParams({});
          void queries.invalidateQueries({ queryKey: ['procedures'] });
        }}
        onClose={() => setIsEditing(false)}
      />
    );
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 380px' },
        flex: 1,
      }}
    >
      <Box sx={{ p: { xs: 2, md: 3 } }}>
        <Typography variant="h1">{procedure.name}</Typography>
        <Box sx={{ color: c.bark, mt: 0.5 }}>
          Version {procedure.version}
          {procedure.version !== newest && ` of ${newest}`} ·{' '}
          {page.data.standards.find((it) => it.value === procedure.packId)?.text}
          {procedure.model && ` · for ${[procedure.maker, procedure.model].filter(Boolean).join(' ')}`}
        </Box>
        {retired && <Box sx={{ color: c.advice, fontWeight: 600, mt: 1 }}>{retired}</Box>}
        {stand.error && <Notice problem={stand.error} />}
        {procedure.remark && <Box sx={{ mt: 1.5, maxWidth: '70ch' }}>{procedure.remark}</Box>}
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 2 }}>
          {mayChange && !retired && (
            <Button variant="contained" onClick={() => setIsEditing(true)}>
              Edit into version {newest + 1}
            </Button>
          )}
          {mayChange && (
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => {
                takeAlong({ ...procedure, name: `${procedure.name}, copy` });
                void goTo('/procedures/new');
              }}
            >
              Copy
            </Button>
          )}
          <Button
            component="a"
            variant="outlined"
            color="inherit"
            href={`/api/v1/procedures/${procedure.id}/file?version=${procedure.version}`}
            download={`${procedure.name}.json`}
          >
            File
          </Button>
          {mayChange && (
            <Button color="inherit" onClick={() => setAsking(retired ? 'restore' : 'retire')}>
              {retired ? 'Restore' : 'Retire'}
            </Button>
          )}
        </Box>
        <Brought procedure={procedure} />
        <Box component="h2" sx={{ fontSize: '1.15rem', mt: 3, mb: 0.5 }}>
          Steps
        </Box>
        <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', counterReset: 'step' }}>
          {procedure.steps.map((step, at) => (
            <Box
              component="li"
              // Steps of a version never change their order.
              // oxlint-disable-next-line react/no-array-index-key
              key={at}
              sx={{
                display: 'grid',
                gridTemplateColumns: '34px minmax(0, 1fr)',
                borderTop: `1px solid ${c.line}`,
                py: 1,
              }}
            >
              <Box sx={{ color: c.muted }}>{at + 1}</Box>
              <StepText step={step} words={words[at] ?? ''} limit={limits[at] ?? ''} />
            </Box>
          ))}
        </Box>
      </Box>
      <Box
        component="aside"
        aria-label="Versions"
        sx={{
          bgcolor: c.surface,
          borderLeft: { lg: `1px solid ${c.line}` },
          borderTop: { xs: `1px solid ${c.line}`, lg: 0 },
          p: { xs: 2, md: 3 },
        }}
      >
        <Box component="h2" sx={{ fontSize: '1.15rem', m: 0, mb: 1 }}>
          Versions
        </Box>
        {page.data.versions.map((it) => (
          <Version
            key={it.version}
            it={it}
            isShown={it.version === procedure.version}
            onShow={() => setParams(it.version === newest ? {} : { version: String(it.version) })}
          />
        ))}
      </Box>
      {asking && (
        <WordsDialog
          title={asking === 'retire' ? 'Retire this procedure: why?' : 'Restore this procedure: why?'}
          offered={asking === 'retire' ? ['Nobody has these devices any more', 'Another took its place'] : []}
          label="In words"
          take={asking === 'retire' ? 'Retire' : 'Restore'}
          note="Records that ran it keep it. A sheet that runs it now goes on with it."
          onTake={(reason) => {
            stand.mutate({ to: asking, reason });
            setAsking(null);
          }}
          onClose={() => setAsking(null)}
        />
      )}
    </Box>
  );
}

function Version(props: { it: Schema['ProcedureVersionCard']; isShown: boolean; onShow: () => void }) {
  const { it } = props;
  return (
    <Box sx={{ borderTop: `1px solid ${c.line}`, py: 1.25 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <strong>Version {it.version}</strong>
        <Box sx={{ color: c.muted, fontSize: 14, flex: 1 }}>
          {it.by}, {showDate(it.at)}
        </Box>
        {props.isShown ? (
          <Box sx={{ color: c.muted, fontSize: 14 }}>shown</Box>
        ) : (
          <Button size="small" color="inherit" onClick={props.onShow}>
            Show
          </Button>
        )}
      </Box>
      <Box>{it.reason}</Box>
      {it.lines.map((line) => (
        <Box key={line} sx={{ color: c.bark, fontSize: 14.5, pl: 1.5, borderLeft: `3px solid ${c.willow}` }}>
          {line}
        </Box>
      ))}
    </Box>
  );
}

function Brought({ procedure }: { procedure: Schema['Procedure'] }) {
  const adapters = procedure.adapters ?? [];
  const modules = procedure.modules ?? [];
  if (adapters.length + modules.length === 0) return null;
  return (
    <Box
      component="dl"
      sx={{ display: 'grid', gridTemplateColumns: '90px minmax(0, 1fr)', gap: 0.75, m: 0, mt: 2.5 }}
    >
      {adapters.length > 0 && (
        <>
          <Box component="dt" sx={{ color: c.muted }}>
            Bring
          </Box>
          <Box component="dd" sx={{ m: 0 }}>
            {adapters.join(', ')}
          </Box>
        </>
      )}
      {modules.length > 0 && (
        <>
          <Box component="dt" sx={{ color: c.muted }}>
            Parts
          </Box>
          <Box component="dd" sx={{ m: 0 }}>
            {modules.map((it) => (
              <Box key={it.name}>
                {it.name} {it.type}, {it.connections} {it.connections === 1 ? 'connection' : 'connections'}
                {it.connections > 1 && (it.joined ? ', joined' : ', each in turn')}
              </Box>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
