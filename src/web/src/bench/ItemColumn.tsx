import { Box, Button, MenuItem, TextField, type Theme, useMediaQuery } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showDue } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';
import { takeAlong } from '../procedures/taken';
import { states } from '../register/words';
import { freesTheKeys } from './benchKeys';
import { useDesk } from './desk';
import { noKit } from './benchRun';
import { useNulling } from './nulling';
import { keepSchool } from './school';
import { useRun, useShown } from './useBench';

/** What lies on the bench, why it is the class it is, and with what it is measured. */
export function ItemColumn(props: { ruling: Schema['Ruling']; onPark: () => void }) {
  const desk = useDesk();
  const run = useRun();
  const sheet = useShown((shown) => shown.sheet);
  const order = useShown((shown) => shown.now.workOrder);
  const { item, basis, today } = props.ruling;
  const over = basis.due ? days(today) - days(basis.due) : null;
  // On an upright tablet the run sheet needs the room; the plate is one touch away.
  const isWide = useMediaQuery((theme: Theme) => theme.breakpoints.up('lg'));
  const details = (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75, mt: { xs: 1.5, lg: 0 } }}>
      <Box
        component="dl"
        sx={{
          m: 0,
          display: 'grid',
          gridTemplateColumns: { xs: 'auto 1fr auto 1fr', lg: '62px 1fr' },
          columnGap: 1.5,
          rowGap: 0.75,
          fontSize: 14.5,
        }}
      >
        <Fact label="Class" value={sheet.classText} strong />
        <Fact label="Seen" value={sheet.evidence} />
        {sheet.facts.map((fact) => (
          <Fact key={fact.label} label={fact.label} value={fact.value} />
        ))}
        <Fact
          label="Due"
          value={
            item.isLoose
              ? 'when it has its tag'
              : basis.due
                ? `${showDate(basis.due)}, ${showDue(over)}`
                : 'never tested'
          }
          tone={(over ?? -1) > 0 ? c.fail : undefined}
        />
        {order && <Fact label="Order" value={[order.number, order.fault].filter(Boolean).join(': ')} />}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button size="small" variant="outlined" color="inherit" onClick={() => desk.ask({ what: 'facts' })}>
          {sheet.class === 'undecided' ? 'Settle the class' : 'Correct the facts'}
        </Button>
        <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'order' })}>
          Work order
        </Button>
      </Box>
      <Choosing
        label="Scope"
        value={sheet.scope}
        of={sheet.phrases.scopes}
        onChosen={(scope) => void run.happen({ kind: 'scopeChosen', scope: scope as Schema['Scope'] })}
      />
      <Choosing
        label="Worded for"
        value={sheet.school}
        of={sheet.phrases.schools}
        onChosen={(chosen) => {
          const school = chosen as Schema['School'];
          keepSchool(school);
          void run.happen({ kind: 'schoolChosen', school });
        }}
      />
      <ByProcedure roundId={props.ruling.round.id} itemId={item.id} />
      {sheet.isLeadApart !== null && (
        <Choosing
          label="Mains lead"
          value={sheet.isLeadApart ? 'apart' : 'together'}
          of={sheet.phrases.leads}
          onChosen={(lead) => void run.happen({ kind: 'leadParted', isApart: lead === 'apart' })}
        />
      )}
      {sheet.leakage && (
        <Choosing
          label="Leakage"
          value={sheet.leakage}
          of={sheet.phrases.leakageMethods}
          onChosen={(to) => desk.ask({ what: 'leakage', to: to as Schema['LeakagePolicy'] })}
        />
      )}
      {props.ruling.kit && <Kit kit={props.ruling.kit} />}
    </Box>
  );
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75 }}>
      <Box>
        {item.isLoose ? (
          <Box sx={{ color: c.advice, fontWeight: 700 }}>No tag yet</Box>
        ) : (
          <Box component={Link} to={`/register/${item.id}`} sx={{ color: c.muted }}>
            {sheet.tag}
          </Box>
        )}
        <Box component="h1" sx={{ fontSize: '1.45rem', fontWeight: 700, lineHeight: 1.15, m: 0 }}>
          {sheet.name}
        </Box>
        {item.isLoose ? (
          <Button
            size="small"
            variant="outlined"
            sx={{ mt: 1 }}
            onClick={() => desk.ask({ what: 'name', tag: '' })}
          >
            Give it its tag
          </Button>
        ) : (
          <Box sx={{ color: c.bark, mt: 0.5 }}>{sheet.place}</Box>
        )}
        {item.state !== 'inService' && (
          <Box sx={{ color: c.fail, fontWeight: 700, mt: 0.5 }}>
            {states[item.state][0]!.toUpperCase() + states[item.state].slice(1)}
          </Box>
        )}
      </Box>
      <Held held={item.held ?? null} />
      <Box
        sx={{
          display: 'flex',
          gap: 0.5,
          flexWrap: 'wrap',
          '& > button': { px: '7px', minWidth: 44, fontSize: 13 },
        }}
      >
        <Button size="small" variant="outlined" color="inherit" onClick={props.onPark}>
          Park
        </Button>
        {!item.isLoose && (
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            onClick={() => desk.ask({ what: 'notTested' })}
          >
            Not tested
          </Button>
        )}
        <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'handOver' })}>
          Hand over
        </Button>
        <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'discard' })}>
          Discard
        </Button>
      </Box>
      {isWide ? (
        details
      ) : (
        <Box component="details">
          <Box component="summary" sx={{ cursor: 'pointer', color: c.slate, minHeight: 44, pt: 1.25 }}>
            Class {sheet.classText}; plate, flex, scope and kit
          </Box>
          {details}
        </Box>
      )}
    </Box>
  );
}

/** The failure that this test after repair is to close, and what was mended since. */
function Held({ held }: { held: Schema['HeldOn'] | null }) {
  const told = useShown((shown) => shown.now.repair);
  if (!held) return null;
  return (
    <Box sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.25, fontSize: 14.5, overflowWrap: 'anywhere' }}>
      <Box>
        {showDate(held.since)}: {held.words}
      </Box>
      <Box sx={{ color: c.bark }}>{told ?? 'Nobody has said what was mended.'}</Box>
    </Box>
  );
}

/** By the standard's own plan, or by a procedure of the house; what it says to bring stands below. */
function ByProcedure(props: { roundId: string; itemId: string }) {
  const run = useRun();
  const { procedure, name, phrases } = useShown((shown) => shown.sheet);
  const goTo = useNavigate();
  const isLead = useMe().role === 'lead';
  const choose = (value: string) => {
    const [id, version] = value.split('/');
    void run.happen({
      kind: 'procedureChosen',
      procedure: value === plan ? null : id!,
      version: Number(version ?? 0),
    });
  };
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/procedures/draft', {
          body: { itemId: props.itemId, roundId: props.roundId, name },
        }),
      ),
    onSuccess: (draft) => {
      takeAlong(draft);
      void goTo('/procedures/new');
    },
  });
  if (phrases.procedures.length === 0 && !isLead) return null;
  return (
    <Box>
      {phrases.procedures.length > 0 && (
        <Choosing
          label="Procedure"
          value={procedure?.value ?? plan}
          of={[{ value: plan, text: 'The standard’s own plan', whyNot: null }, ...phrases.procedures]}
          onChosen={choose}
        />
      )}
      {procedure?.trouble && (
        <Box role="alert" sx={{ color: c.fail, fontWeight: 600, mt: 0.5 }}>
          {procedure.trouble}
        </Box>
      )}
      {procedure && procedure.adapters.length > 0 && (
        <Box sx={{ fontSize: 14.5, mt: 0.5 }}>Bring: {procedure.adapters.join(', ')}</Box>
      )}
      {procedure?.remark && <Box sx={{ fontSize: 14.5, color: c.bark, mt: 0.5 }}>{procedure.remark}</Box>}
      {isLead && (
        <Button
          size="small"
          color="inherit"
          sx={{ ml: -1 }}
          disabled={make.isPending}
          onClick={() => make.mutate()}
        >
          Make a procedure of this
        </Button>
      )}
      {make.error && <Notice problem={make.error} />}
    </Box>
  );
}

const plan = 'plan';

/** One of several ways, those that are closed with their reason. */
function Choosing(props: {
  label: string;
  value: string;
  of: readonly Schema['Choice'][];
  onChosen: (value: string) => void;
}) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      label={props.label}
      slotProps={freesTheKeys}
      value={props.value}
      onChange={(event) => props.onChosen(event.target.value)}
    >
      {props.of.map((it) => (
        <MenuItem
          key={it.value}
          value={it.value}
          disabled={it.whyNot !== null}
          title={it.whyNot ?? undefined}
        >
          {it.text}
        </MenuItem>
      ))}
    </TextField>
  );
}

const days = (iso: string) => Math.round(Date.parse(`${iso.slice(0, 10)}T00:00:00Z`) / 86_400_000);

function Fact(props: { label: string; value: string; strong?: boolean; tone?: string | undefined }) {
  return (
    <>
      <Box component="dt" sx={{ color: c.muted }}>
        {props.label}
      </Box>
      <Box
        component="dd"
        sx={{ m: 0, fontWeight: props.strong || props.tone ? 700 : 400, color: props.tone }}
      >
        {props.value}
      </Box>
    </>
  );
}

function Kit({ kit }: { kit: NonNullable<Schema['Ruling']['kit']> }) {
  const { lead, canTake, take } = useNulling();
  const steps = useShown(({ sheet }) => sheet.steps);
  if (kit.id === noKit)
    return (
      <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5, fontSize: 14.5 }}>
        <Box sx={{ color: c.advice, fontWeight: 600 }}>{kit.trouble}</Box>
        <Button component={Link} to="/kit" size="small" variant="outlined" sx={{ mt: 1 }}>
          Choose today’s kit
        </Button>
      </Box>
    );
  // Those that a step of this sheet needs.
  const beside = [kit.meter, kit.clamp, kit.analyser]
    .filter((other) => !!other)
    .filter((other) => steps.some((step) => step.with?.id === other.id));
  const others = (kit.pieces ?? []).filter((it) => it.kind !== 'testLead');
  return (
    <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5, fontSize: 14.5 }}>
      <Box component={Link} to="/kit" sx={{ color: c.muted, display: 'block', mb: 0.5 }}>
        Kit
      </Box>
      <Box>
        {kit.name}, calibrated to {showDate(kit.calibrationDue)}
      </Box>
      <Box>
        {lead ? lead.name : 'No test lead'}
        {lead &&
          (kit.nullOhm === null || kit.nullOhm === undefined ? ', not nulled' : `, nulled ${kit.nullOhm} Ω`)}
        {kit.nulledAt && ` on ${showDate(kit.nulledAt)}`}
      </Box>
      {!kit.nullsItself && (
        <Box sx={{ color: c.bark }}>Type what it shows: the lead’s null is taken off here.</Box>
      )}
      {others.length > 0 && <Box sx={{ color: c.muted }}>{others.map((it) => it.name).join(', ')}</Box>}
      {(kit.trouble || !kit.connected) && (
        <Box sx={{ color: c.advice, fontWeight: 600, mt: 0.5 }}>
          {kit.trouble ?? 'It does not answer: readings are typed.'}
        </Box>
      )}
      {kit.warning && <Box sx={{ color: c.advice, mt: 0.5 }}>{kit.warning}</Box>}
      {others
        .filter((piece) => piece.fitness !== 'fit')
        .map((piece) => (
          <Box key={piece.id} sx={{ color: c.fail, fontWeight: 600, mt: 0.5 }}>
            {piece.name}: {piece.trouble ?? 'dead work only'}
          </Box>
        ))}
      {beside.map((other) => (
        <Box key={other.id} sx={{ mt: 1 }}>
          {other.name}, calibrated to {showDate(other.calibrationDue)}
          {(other.trouble || !other.connected) && (
            <Box sx={{ color: other.trouble ? c.fail : c.advice, fontWeight: 600 }}>
              {other.trouble ?? 'It does not answer: what it shows is typed.'}
            </Box>
          )}
        </Box>
      ))}
      {canTake && (
        <Button
          size="small"
          sx={{ mt: 0.5, ml: -1.5 }}
          disabled={take.isPending}
          onClick={() => take.mutate()}
        >
          Null the lead
        </Button>
      )}
      {take.error && <Notice problem={take.error} />}
    </Box>
  );
}
