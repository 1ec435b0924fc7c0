import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

type Facts = Schema['ClassFacts'];

const marks: [string, string, Partial<Facts>][] = [
  ['none', 'No mark legible', { mark: 'none', markOn: 'plate' }],
  ['square', 'Square within a square, on the plate', { mark: 'squareWithinSquare', markOn: 'plate' }],
  ['earth', 'Earth symbol, on the plate', { mark: 'earthSymbol', markOn: 'plate' }],
  ['three', 'Roman III in a diamond, on the plate', { mark: 'romanThreeInDiamond', markOn: 'plate' }],
  [
    'component',
    'A mark on a component only: a motor, a supply',
    { mark: 'squareWithinSquare', markOn: 'component' },
  ],
];
const known = (value: string) => (value === '' ? null : value === 'yes');

/** From what the eye sees to a class, or to the question that would settle it. A metal case proves nothing. */
export function ClassDialog({
  onTake,
  onClose,
}: {
  onTake: (evidence: Schema['ClassEvidence']) => void;
  onClose: () => void;
}) {
  const [mark, setMark] = useState('none');
  const [cores, setCores] = useState('');
  const [metal, setMetal] = useState('');
  const [bonded, setBonded] = useState('');
  const [serves, setServes] = useState('');
  const facts: Facts = {
    mark: 'none',
    markOn: 'plate',
    ...marks.find(([key]) => key === mark)![2],
    cores: cores === '' ? null : Number(cores),
    earthPin: null,
    metalReachable: known(metal),
    bonded: known(bonded),
    functionalEarth: serves === 'yes',
    extraLowVoltage: null,
  };
  const finding = useQuery({
    queryKey: ['class', facts],
    queryFn: () => ask(api.POST('/api/v1/register/class', { body: facts })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
  });
  const choice = (
    label: string,
    value: string,
    set: (value: string) => void,
    options: [string, string][],
  ) => (
    <TextField select label={label} value={value} onChange={(event) => set(event.target.value)}>
      {options.map(([key, text]) => (
        <MenuItem key={key} value={key}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
  const yesNo = (unknown: string): [string, string][] => [
    ['', unknown],
    ['yes', 'Yes'],
    ['no', 'No'],
  ];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="class-title">
      <DialogTitle id="class-title">Which class is it?</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
        {choice(
          'The mark, and where it sits',
          mark,
          setMark,
          marks.map(([key, text]) => [key, text]),
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 2 }}>
          {choice('Cores of the flex', cores, setCores, [
            ['', 'Cannot be told'],
            ['2', 'Two'],
            ['3', 'Three, with earth'],
          ])}
          {choice('Metal within reach', metal, setMetal, yesNo('Not looked at'))}
          {choice('Case bonded to the earth pin', bonded, setBonded, yesNo('Not measured'))}
          {choice('Earth only for a screen or filter', serves, setServes, [
            ['', 'No, or not known'],
            ['yes', 'Yes, by plate or papers'],
          ])}
        </Box>
        {finding.error && <Notice problem={finding.error} onAgain={() => void finding.refetch()} />}
        {finding.data && (
          <Box role="status" sx={{ borderLeft: `4px solid ${c.reed}`, pl: 1.5 }}>
            <strong>
              {finding.data.class === 'undecided' ? 'Undecided' : `Class ${finding.data.class}`}
            </strong>
            , tested {finding.data.testAs}
            {finding.data.because.map((line) => (
              <Box key={line}>{line}</Box>
            ))}
            {finding.data.ask && <Box sx={{ color: c.advice, mt: 0.5 }}>{finding.data.ask}</Box>}
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={!finding.data}
          onClick={() => {
            onTake(finding.data!.evidence);
            onClose();
          }}
        >
          Take it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
