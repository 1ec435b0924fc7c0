import type { Schema } from '../api/client';
import { tests } from './words';
import { amountOf } from '../frame/amount';

type Accuracy = Schema['StatedAccuracy'];
type Stated = Schema['StatedValue'];
type Test = Schema['Test'];

/** A row of figures while it is typed: text stays text until it is sent. */
export interface Line {
  key: string;
  test: Test;
  unit: string;
  name: string;
  figures: Record<string, string>;
  /** Figures that may be left out. */
  isFree: readonly string[];
}

/** How one kind of row is read, shown and sent. */
export interface LineKind<T> {
  columns: readonly { key: string; label: string }[];
  isNamed: boolean;
  blank: () => Line;
  of: (it: T) => Line;
  to: (it: Line) => T;
}

export const numberOf = (text: string | undefined): number | null => {
  const value = amountOf(text ?? '');
  return (text ?? '').trim() === '' || !Number.isFinite(value) ? null : value;
};

const shown = (value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(value);

const first = tests[0]!;
const optional = ['from', 'to', 'testCurrentA'];

export const accuracyLine: LineKind<Accuracy> = {
  columns: [
    { key: 'from', label: 'From' },
    { key: 'to', label: 'To' },
    { key: 'resolution', label: 'Step' },
    { key: 'percent', label: '± %' },
    { key: 'digits', label: '± steps' },
    { key: 'testCurrentA', label: 'Current, A' },
  ],
  isNamed: false,
  blank: () => ({
    key: crypto.randomUUID(),
    test: first.value,
    unit: first.units[0]!,
    name: '',
    figures: { from: '', to: '', resolution: '', percent: '', digits: '', testCurrentA: '' },
    isFree: optional,
  }),
  of: (it) => ({
    key: crypto.randomUUID(),
    test: it.test,
    unit: it.unit,
    name: '',
    figures: {
      from: shown(it.from),
      to: shown(it.to),
      resolution: shown(it.resolution),
      percent: shown(it.percent),
      digits: shown(it.digits),
      testCurrentA: shown(it.testCurrentA),
    },
    isFree: optional,
  }),
  to: (it) => ({
    test: it.test,
    unit: it.unit,
    from: numberOf(it.figures.from),
    to: numberOf(it.figures.to),
    resolution: numberOf(it.figures.resolution) ?? 0,
    percent: numberOf(it.figures.percent) ?? 0,
    digits: numberOf(it.figures.digits) ?? 0,
    testCurrentA: numberOf(it.figures.testCurrentA),
  }),
};

export const statedLine: LineKind<Stated> = {
  columns: [
    { key: 'value', label: 'Value' },
    { key: 'tolerance', label: '± tolerance' },
  ],
  isNamed: true,
  blank: () => ({
    key: crypto.randomUUID(),
    test: first.value,
    unit: first.units[0]!,
    name: '',
    figures: { value: '', tolerance: '' },
    isFree: [],
  }),
  of: (it) => ({
    key: it.key,
    test: it.test,
    unit: it.unit,
    name: it.name,
    figures: { value: shown(it.value), tolerance: shown(it.tolerance) },
    isFree: [],
  }),
  to: (it) => ({
    key: it.key,
    test: it.test,
    unit: it.unit,
    name: it.name.trim(),
    value: numberOf(it.figures.value) ?? 0,
    tolerance: numberOf(it.figures.tolerance) ?? 0,
  }),
};
