import { Box } from '@mui/material';
import { c } from '../design/tokens';
import type { Fleet, Stage } from './useFleet';

/** Told apart in grey too: by how they are filled, not by their colour alone. */
const fills: Record<Stage, object> = {
  ready: { bgcolor: c.reed },
  out: { bgcolor: c.slate },
  forTheBench: {
    backgroundImage: `repeating-linear-gradient(135deg, ${c.bark} 0 2px, transparent 2px 6px)`,
  },
  onTheBench: {
    backgroundImage: `repeating-linear-gradient(45deg, ${c.bark} 0 1px, transparent 1px 4px)`,
  },
  returned: { bgcolor: c.line },
  repair: { bgcolor: c.fail },
  scrapped: { bgcolor: 'transparent' },
};

/** The fleet on one screen: each stage with its count, then every kind of thing, the one that is shortest of ready ones on top. */
export function Readiness(props: { fleet: Fleet; stage: Stage | null; onStage: (stage: Stage) => void }) {
  const { fleet } = props;
  return (
    <>
      <Box
        role="group"
        aria-label="Stages"
        sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(92px, 1fr))', gap: 1, mb: 2 }}
      >
        {fleet.stages.map((it) => (
          <Box
            key={it.stage}
            component="button"
            type="button"
            aria-pressed={props.stage === it.stage}
            onClick={() => props.onStage(it.stage)}
            sx={{
              font: 'inherit',
              color: c.ink,
              textAlign: 'left',
              cursor: 'pointer',
              bgcolor: c.raised,
              border: `1px solid ${props.stage === it.stage ? c.ink : c.line}`,
              borderRadius: '6px',
              p: 1.25,
              minHeight: 44,
              '&:hover': { borderColor: c.edge },
            }}
          >
            <Box sx={{ height: '8px', mb: 0.75, border: `1px solid ${c.line}`, ...fills[it.stage] }} />
            <Box sx={{ fontSize: '1.6rem', fontWeight: 700, lineHeight: 1.1 }}>{it.items}</Box>
            <Box sx={{ fontSize: 13.5, color: c.bark }}>{it.name}</Box>
          </Box>
        ))}
      </Box>
      <Box component="table" sx={{ width: '100%', borderCollapse: 'collapse', mb: 2.5 }}>
        <Box component="caption" sx={{ textAlign: 'left', fontWeight: 700, fontSize: '1.05rem', pb: 0.75 }}>
          What is ready, the shortest first
        </Box>
        <tbody>
          {fleet.kinds.map((kind) => (
            <Box component="tr" key={kind.name} sx={{ borderTop: `1px solid ${c.line}` }}>
              <Box
                component="th"
                scope="row"
                sx={{ textAlign: 'left', fontWeight: 400, py: 0.5, pr: 1.5, width: { xs: 'auto', sm: 200 } }}
              >
                {kind.name}
              </Box>
              <Box
                component="td"
                sx={{
                  textAlign: 'right',
                  pr: 1.5,
                  whiteSpace: 'nowrap',
                  fontVariantNumeric: 'tabular-nums',
                  fontWeight: 700,
                  color: kind.ready === 0 ? c.fail : c.ink,
                  width: 92,
                }}
              >
                {kind.ready} of {kind.items}
              </Box>
              <Box component="td" sx={{ minWidth: 120 }}>
                <Bar kind={kind} />
              </Box>
            </Box>
          ))}
        </tbody>
      </Box>
    </>
  );
}

const order: readonly Stage[] = ['ready', 'out', 'forTheBench', 'onTheBench', 'returned', 'repair'];

function Bar({ kind }: { kind: Fleet['kinds'][number] }) {
  const of = (stage: Stage) => kind.stages.find((it) => it.stage === stage);
  return (
    <Box
      role="img"
      aria-label={kind.stages.map((it) => `${it.items} ${it.name.toLowerCase()}`).join(', ')}
      title={kind.stages.map((it) => `${it.items} ${it.name.toLowerCase()}`).join(', ')}
      sx={{ display: 'flex', height: '16px', gap: '1px' }}
    >
      {order.map((stage) => {
        const part = of(stage);
        return (
          part && (
            <Box key={stage} sx={{ flex: part.items, border: `1px solid ${c.edge}`, ...fills[stage] }} />
          )
        );
      })}
    </Box>
  );
}
