import { Box, Button } from '@mui/material';

/** Phrases to choose from, beside room for one's own words. */
export function OnOffer(props: {
  phrases: readonly string[];
  chosen: string;
  size?: 'small' | 'medium';
  onChoose: (phrase: string) => void;
}) {
  return (
    <Box role="group" aria-label="On offer" sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
      {props.phrases.map((phrase) => (
        <Button
          key={phrase}
          size={props.size ?? 'medium'}
          variant={props.chosen === phrase ? 'contained' : 'outlined'}
          color="inherit"
          aria-pressed={props.chosen === phrase}
          onClick={() => props.onChoose(phrase)}
        >
          {phrase}
        </Button>
      ))}
    </Box>
  );
}
