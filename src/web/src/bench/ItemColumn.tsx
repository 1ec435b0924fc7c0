import { Box, Button, MenuItem, TextField, type Theme, useMediaQuery } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showDue, showTime } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { states } from '../register/words';

const scopes: [Schema['Scope'], string][] = [
  ['combined', 'Inspection and test'],
  ['newItem', 'New item'],
  ['formalVisual', 'Formal visual only'],
  ['afterRepair', 'After repair'],
  ['faultFinding', 'Fault-finding'],
];

/** What lies on the bench, why it is the class it is, and with what it is measured. */
export function ItemColumn(props: {
  sheet: Schema['BenchSheet'];
  onScope: ((scope: Schema['Scope']) => void) | undefined;
  onSchool: (school: Schema['School']) => void;
  onRefresh: () => void;
  onPark: () => void;
  onNotTested: () => void;
}) {
  const { item, before, instrument } = props.sheet;
  const over = (item.daysOver ?? -1) > 0;
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
        <Fact label="Class" value={item.classText} strong />
        <Fact label="Seen" value={item.evidence} />
        {item.facts.map((fact) => (
          <Fact key={fact.label} label={fact.label} value={fact.value} />
        ))}
        <Fact
          label="Due"
          value={item.due ? `${showDate(item.due)}, ${showDue(item.daysOver)}` : 'never inspected'}
          tone={over ? c.fail : undefined}
        />
      </Box>
      <TextField
        select
        size="small"
        label="Scope"
        value={props.sheet.scope}
        disabled={!props.onScope}
        onChange={(event) => props.onScope?.(event.target.value as Schema['Scope'])}
      >
        {scopes.map(([value, text]) => (
          <MenuItem key={value} value={value}>
            {text}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Worded for"
        value={props.sheet.school}
        onChange={(event) => props.onSchool(event.target.value as Schema['School'])}
      >
        <MenuItem value="applianceTester">Appliance tester</MenuItem>
        <MenuItem value="meter">Meter, two probes</MenuItem>
      </TextField>
      {instrument && <Kit instrument={instrument} onRefresh={props.onRefresh} />}
    </Box>
  );
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75 }}>
      <Box>
        <Box sx={{ color: c.muted }}>{item.tag}</Box>
        <Box component="h1" sx={{ fontSize: '1.45rem', fontWeight: 700, lineHeight: 1.15, m: 0 }}>
          {item.name}
        </Box>
        <Box sx={{ color: c.bark, mt: 0.5 }}>{item.place}</Box>
        {before.length > 0 && (
          <Box
            component={Link}
            to={`/register/${item.id}`}
            aria-label="Its whole story"
            sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 1 }}
          >
            {before.map((past) => (
              <span key={past.id} title={showDate(past.date)}>
                <Ring state={past.outcome} size={22} />
              </span>
            ))}
          </Box>
        )}
        {item.state !== 'inService' && (
          <Box sx={{ color: c.fail, fontWeight: 700, mt: 0.5 }}>
            {states[item.state][0]!.toUpperCase() + states[item.state].slice(1)}
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button size="small" variant="outlined" color="inherit" onClick={props.onPark}>
          Park
        </Button>
        <Button size="small" variant="outlined" color="inherit" onClick={props.onNotTested}>
          Not tested
        </Button>
      </Box>
      {isWide ? (
        details
      ) : (
        <Box component="details">
          <Box component="summary" sx={{ cursor: 'pointer', color: c.slate, minHeight: 32 }}>
            Class {item.classText}; plate, flex, scope and kit
          </Box>
          {details}
        </Box>
      )}
    </Box>
  );
}

function Fact({
  label,
  value,
  strong,
  tone,
}: {
  label: string;
  value: string;
  strong?: boolean;
  tone?: string | undefined;
}) {
  return (
    <>
      <Box component="dt" sx={{ color: c.muted }}>
        {label}
      </Box>
      <Box component="dd" sx={{ m: 0, fontWeight: strong || tone ? 700 : 400, color: tone }}>
        {value}
      </Box>
    </>
  );
}

function Kit({ instrument, onRefresh }: { instrument: Schema['InstrumentCard']; onRefresh: () => void }) {
  const nulling = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/kit/instrument/null')),
    onSuccess: onRefresh,
  });
  return (
    <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5, fontSize: 14.5 }}>
      <Box sx={{ color: c.muted, mb: 0.5 }}>Kit</Box>
      <Box>
        {instrument.name},{' '}
        <Box component="span" sx={{ color: instrument.calibrationSoon ? c.advice : 'inherit' }}>
          calibrated to {showDate(instrument.calibrationDue)}
        </Box>
      </Box>
      <Box>
        {instrument.leadName}, {instrument.nullText ? `nulled ${instrument.nullText}` : 'not nulled'}
        {instrument.nulledAt && !instrument.nullStale && ` at ${showTime(instrument.nulledAt)}`}
        {instrument.nullStale && (
          <Box component="span" sx={{ color: c.advice, fontWeight: 700 }}>
            ; null again
          </Box>
        )}
      </Box>
      {instrument.trouble ? (
        <Box sx={{ color: c.advice, fontWeight: 600, mt: 0.5 }}>{instrument.trouble}</Box>
      ) : (
        <Button
          size="small"
          sx={{ mt: 0.5, ml: -1.5 }}
          disabled={nulling.isPending}
          onClick={() => nulling.mutate()}
        >
          Null the lead
        </Button>
      )}
      {nulling.error && <Notice problem={nulling.error} />}
    </Box>
  );
}
