import { describe, expect, test } from 'vitest';
import type { Schema } from '../api/client';
import { moreOf, sortOf, type SortName, sorts } from './sorts';

/** An item as it is known, of a kind and with what decides its sort. */
const known = (kind: Schema['ItemKind'], facts: object = {}, hardWired = false) =>
  ({ kind, hardWired, facts }) as Schema['SameModel'];

describe('the sorts that walking offers', () => {
  test('offer every kind of item, each under the sort it is found under again', () => {
    const kinds: Schema['ItemKind'][] = [
      'appliance',
      'cordSet',
      'extensionLead',
      'multiwayAdapter',
      'portableRcd',
      'medicalDevice',
      'medicalSystem',
    ];
    for (const kind of kinds) expect(sorts[sortOf(known(kind))].kinds).toContain(kind);
  });

  test.each([
    ['hard-wired before everything else', known('appliance', { phases: 3 }, true), 'hardWired'],
    [
      'three phases',
      known('appliance', { phases: 3, partPlates: [{ name: 'fan', powerW: 60 }] }),
      'threePhase',
    ],
    ['several plates', known('appliance', { partPlates: [{ name: 'fan', powerW: 60 }] }), 'combined'],
    ['no plates of parts', known('appliance', { partPlates: [] }), 'appliance'],
    ['a cord set is a lead', known('cordSet'), 'lead'],
  ] as const)('find a known item again: %s', (_, item, name) => {
    expect(sortOf(item)).toBe(name);
  });

  test('begin with what they say and with nothing of another’s', () => {
    for (const name of Object.keys(sorts) as SortName[]) expect(moreOf(name)).toMatchObject(sorts[name].more);
    expect(moreOf('appliance').partPlates ?? []).toEqual([]);
    expect(moreOf('combined').partPlates).toHaveLength(2);
    expect(moreOf('appliance').phases).not.toBe(3);
  });
});
