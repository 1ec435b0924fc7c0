import type { Schema } from '../api/client';

type Kind = Schema['KitKind'];

/** Headings of the list, in the order in which a case is packed. */
export const kinds: readonly { kind: Kind; many: string; one: string }[] = [
  { kind: 'instrument', many: 'Testers and safety analysers', one: 'Tester or safety analyser' },
  { kind: 'meter', many: 'Meters', one: 'Meter' },
  { kind: 'leakageClamp', many: 'Leakage clamps', one: 'Leakage clamp' },
  { kind: 'performanceAnalyser', many: 'Performance analysers', one: 'Performance analyser' },
  { kind: 'testLead', many: 'Test leads', one: 'Test lead' },
  { kind: 'probes', many: 'Probes', one: 'Probes' },
  { kind: 'clip', many: 'Clips', one: 'Clip' },
  { kind: 'voltageIndicator', many: 'Voltage indicators', one: 'Voltage indicator' },
  { kind: 'provingUnit', many: 'Proving units', one: 'Proving unit' },
  { kind: 'adapter', many: 'Adapters', one: 'Adapter' },
  { kind: 'checkBox', many: 'Check boxes', one: 'Check box' },
];

export const oneOf = (kind: Kind) => kinds.find((it) => it.kind === kind)!.one;

/** A check box stays on the shelf; of instruments and leads one is in hand. */
export const isTakenAlong = (kind: Kind) => kind !== 'checkBox';
export const isSingle = (kind: Kind) => kind === 'testLead' || isInstrument(kind);

/** Its maker states what it measures, and how well. */
export const isInstrument = (kind: Kind) =>
  kind === 'instrument' || kind === 'meter' || kind === 'leakageClamp' || kind === 'performanceAnalyser';

/** Every day has one of them: appliances and devices are tested with it. */
export const isMain = (kind: Kind) => kind === 'instrument' || kind === 'meter';

export const tests: readonly { value: Schema['Test']; text: string; units: readonly string[] }[] = [
  { value: 'earthContinuity', text: 'Earth continuity', units: ['ohm', 'mohm'] },
  { value: 'insulation', text: 'Insulation', units: ['Mohm', 'kohm'] },
  { value: 'leakage', text: 'Leakage', units: ['mA', 'uA'] },
  { value: 'rcdTrip', text: 'RCD trip time', units: ['ms'] },
  { value: 'padPath', text: 'Pad path', units: ['ohm'] },
  { value: 'defibEnergy', text: 'Defibrillator energy', units: ['J'] },
  { value: 'defibCharge', text: 'Charge time', units: ['s'] },
  { value: 'defibSync', text: 'Synchronised shock', units: ['ms'] },
  { value: 'ecgAmplitude', text: 'ECG check trace', units: ['mV'] },
];

const labels: Record<string, string> = { ohm: 'Ω', mohm: 'mΩ', Mohm: 'MΩ', kohm: 'kΩ', uA: 'µA' };
export const unitLabel = (symbol: string) => labels[symbol] ?? symbol;
