/**
 * Colours of our own, by what they are made of: willow bark, reed, river slate, paper. One loud colour is kept for danger.
 * Every text pairing reaches WCAG AA on paper and on surface.
 */
export const light = {
  ink: '#22261f',
  bark: '#4b4538',
  muted: '#655f50',
  line: '#d9d4c4',
  /** Edges of what can be typed into: 3:1 against every ground. */
  edge: '#857f6d',
  paper: '#f3f0e7',
  surface: '#fbfaf5',
  raised: '#ffffff',
  willow: '#c3cc98',
  reed: '#56652f',
  slate: '#34525e',
  pass: '#1d6650',
  advice: '#8a5600',
  fail: '#a82c17',
  failWash: '#f8e4de',
};

export const dark: typeof light = {
  ink: '#ece8dc',
  bark: '#cfc8b5',
  muted: '#aea893',
  line: '#40463b',
  edge: '#868d7c',
  paper: '#191c18',
  surface: '#21251f',
  raised: '#2a2f28',
  willow: '#56623a',
  reed: '#b3c57d',
  slate: '#9cc0cf',
  pass: '#6fcaa5',
  advice: '#e6b356',
  fail: '#ff9078',
  failWash: '#3d241e',
};

export type Token = keyof typeof light;

/** The token as a CSS variable that follows the colour scheme. */
export const c = Object.fromEntries(
  Object.keys(light).map((name) => [name, `var(--mui-palette-osier-${name})`]),
) as Record<Token, string>;
