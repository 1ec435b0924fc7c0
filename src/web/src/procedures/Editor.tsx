import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { asLine, type Line, linesOf, moved, type Procedure, turned } from './editing';
import { StepEditor } from './StepEditor';
import { TryOn } from './TryOn';

/** The editor, once the procedure is read aloud: its steps in words, and what it may borrow. */
export function EditProcedure(props: {
  procedure: Procedure;
  basedOn: number;
  onSaved: (page: Schema['ProcedurePage']) => void;
  onClose: () => void;
}) {
  const words = useQuery({
    queryKey: ['procedure words', props.procedure.id, props.procedure.version, props.basedOn],
    queryFn: () => ask(api.POST('/api/v1/procedures/words', { body: props.procedure })),
    staleTime: Infinity,
  });
  if (words.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={words.error} onAgain={() => void words.refetch()} />
      </Box>
    );
  if (!words.data) return <Waiting what="Reading the procedure" />;
  return <Editor {...props} words={words.data} />;
}

/** A procedure being edited; nothing of it holds until it is saved as a version with its reason. */
function Editor(props: {
  procedure: Procedure;
  words: Schema['ProcedureWords'];
  /** The version it is edited from; 0 for a new one. */
  basedOn: number;
  onSaved: (page: Schema['ProcedurePage']) => void;
  onClose: () => void;
}) {
  const [head, setHead] = useState(props.procedure);
  const [lines, setLines] = useState(() => linesOf(props.procedure, props.words.words));
  const [reason, setReason] = useState('');
  const [adapters, setAdapters] = useState((head.adapters ?? []).join('\n'));
  const made: Procedure = {
    ...head,
    version: Math.max(1, props.basedOn),
    adapters: adapters
      .split('\n')
      .map((it) => it.trim())
      .filter(Boolean),
    steps: lines.map((line) => line.step),
  };
  const save = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/v1/procedures', { body: { procedure: made, basedOn: props.basedOn, reason } })),
    onSuccess: props.onSaved,
  });
  const faults = save.error instanceof Problem ? save.error.faults : [];
  const change = (at: number, step: Line['step']) =>
    setLines((now) => now.map((line, n) => (n === at ? { ...line, step } : line)));
  const text = (name: 'name' | 'remark' | 'maker' | 'model', label: string, help?: string, rows?: number) => (
    <TextField
      size="small"
      label={label}
      value={head[name] ?? ''}
      multiline={rows !== undefined}
      minRows={rows}
      error={faults.some((fault) => fault.path === name)}
      helperText={faults.find((fault) => fault.path === name)?.message ?? help}
      onChange={(event) => setHead({ ...head, [name]: event.target.value })}
      slotProps={{ htmlInput: { maxLength: name === 'remark' ? 500 : 120 } }}
    />
  );
  return (
    <Box
      component="form"
      aria-label="Edit the procedure"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim()) save.mutate();
      }}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: '360px minmax(0, 1fr)' },
        flex: 1,
        alignItems: 'start',
      }}
    >
      <Box sx={{ p: { xs: 2, md: 3 }, display: 'grid', gap: 2, minWidth: 0 }}>
        <Typography variant="h1" sx={{ fontSize: '1.6rem' }}>
          {props.basedOn === 0 ? 'A new procedure' : `Version ${props.basedOn + 1}`}
        </Typography>
        {text('name', 'Name', 'It tells the next technician which adapters to bring.')}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          {text('maker', 'Made for: maker')}
          {text('model', 'Model', 'Empty: chosen by hand')}
        </Box>
        <TextField
          size="small"
          label="To bring, one a line"
          multiline
          minRows={2}
          value={adapters}
          onChange={(event) => setAdapters(event.target.value)}
        />
        {text('remark', 'Remark', undefined, 2)}
        <Modules modules={head.modules ?? []} onChange={(modules) => setHead({ ...head, modules })} />
        <TryOn procedure={made} />
        <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 2, display: 'grid', gap: 1.5 }}>
          <TextField
            size="small"
            label="Why this version is made"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
          {save.error && <Notice problem={save.error} />}
          {faults.length > 0 && (
            <Box component="ul" sx={{ m: 0, pl: 2.5, color: c.fail }}>
              {faults.map((fault) => (
                <li key={fault.path + fault.message}>
                  {where(fault.path)}
                  {fault.message}
                </li>
              ))}
            </Box>
          )}
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Button type="submit" variant="contained" disabled={!reason.trim() || save.isPending}>
              Save version {props.basedOn + 1}
            </Button>
            <Button color="inherit" onClick={props.onClose}>
              Cancel
            </Button>
          </Box>
        </Box>
      </Box>
      <Box
        sx={{
          p: { xs: 2, md: 3 },
          bgcolor: c.surface,
          borderLeft: { lg: `1px solid ${c.line}` },
          minHeight: '100%',
          minWidth: 0,
        }}
      >
        <Box component="h2" sx={{ fontSize: '1.15rem', m: 0 }}>
          Steps, in the order they are done
        </Box>
        <Box sx={{ color: c.bark, fontSize: 14.5, mb: 1, maxWidth: '70ch' }}>
          Earth first, then insulation, then whatever powers the device. What the standard asks and no line
          names stays on the run sheet.
        </Box>
        <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {lines.map((line, at) => (
            <StepEditor
              key={line.id}
              number={at + 1}
              line={line}
              units={props.words.units}
              fault={faults.find((fault) => fault.path.startsWith(`steps[${at}]`))?.message}
              onChange={(step) => change(at, step)}
              onTurn={() => change(at, turned(line.step))}
              onMove={(by) => setLines((now) => moved(now, at, by))}
              onRemove={() => setLines((now) => now.filter((other) => other.id !== line.id))}
              isFirst={at === 0}
              isLast={at === lines.length - 1}
            />
          ))}
        </Box>
        <Box sx={{ display: 'flex', gap: 1, mt: 2, flexWrap: 'wrap' }} role="group" aria-label="Add">
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => setLines((now) => [...now, asLine({ do: 'pause', says: '', seconds: 0 }, '')])}
          >
            Add a pause
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => setLines((now) => [...now, asLine({ do: 'check', name: '' }, '')])}
          >
            Add a check
          </Button>
          <TextField
            select
            size="small"
            label="Borrow a step"
            value=""
            sx={{ minWidth: 200 }}
            onChange={(event) => {
              const it = props.words.borrowable[Number(event.target.value)]!;
              setLines((now) => [
                ...now,
                asLine({ do: 'borrow', packId: it.packId, step: it.step }, it.words),
              ]);
            }}
          >
            {props.words.borrowable.map((it, at) => (
              <MenuItem key={`${it.packId} ${it.step}`} value={String(at)}>
                {it.standard}: {it.words}
              </MenuItem>
            ))}
          </TextField>
        </Box>
      </Box>
    </Box>
  );
}

const where = (path: string) => {
  const step = /^steps\[(\d+)\]/.exec(path);
  return step ? `Step ${Number(step[1]) + 1}: ` : '';
};

/** The parts as the device has them; only whether they are joined is the procedure's to say. */
function Modules(props: {
  modules: readonly Schema['ProcedureModule'][];
  onChange: (modules: Schema['ProcedureModule'][]) => void;
}) {
  if (props.modules.length === 0) return null;
  return (
    <Box role="group" aria-label="Applied parts">
      <Box sx={{ color: c.muted, fontSize: 14, mb: 0.5 }}>Applied parts, as the device has them</Box>
      {props.modules.map((it, at) => (
        <Box
          key={it.name}
          sx={{
            display: 'flex',
            gap: 1,
            alignItems: 'center',
            borderTop: `1px solid ${c.line}`,
            minHeight: 48,
          }}
        >
          <Box sx={{ flex: 1 }}>
            <strong>{it.name}</strong> {it.type}, {it.connections}
          </Box>
          {it.connections > 1 && (
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              onClick={() =>
                props.onChange(
                  props.modules.map((one, n) => (n === at ? { ...one, joined: !one.joined } : one)),
                )
              }
            >
              {it.joined ? 'Joined' : 'Each in turn'}
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}
