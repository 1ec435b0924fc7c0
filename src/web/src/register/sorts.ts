import type { Schema } from '../api/client';
import { type More, nothingMore } from './PlateMore';

/** What lies in hand, as people call it, and what the form then begins with. Class and limits follow from what is read, not from this. */
export interface Sort {
  name: string;
  kinds: readonly Schema['ItemKind'][];
  begins: Partial<Pick<Schema['NewItem'], 'use' | 'plug' | 'allInsulated' | 'hardWired'>>;
  more: Partial<More>;
}

export const sorts = {
  appliance: { name: 'Appliance', kinds: ['appliance'], begins: {}, more: {} },
  supply: {
    name: 'Charger or supply unit',
    kinds: ['appliance'],
    begins: { plug: 'moulded', allInsulated: true },
    more: {},
  },
  combined: {
    name: 'Combined, several plates',
    kinds: ['appliance'],
    begins: {},
    more: {
      partPlates: [
        { name: '', powerW: 0 },
        { name: '', powerW: 0 },
      ],
    },
  },
  lead: {
    name: 'Lead or adaptor',
    kinds: ['extensionLead', 'cordSet', 'multiwayAdapter'],
    begins: { plug: 'moulded' },
    more: {},
  },
  rcd: { name: 'Portable RCD', kinds: ['portableRcd'], begins: {}, more: {} },
  threePhase: {
    name: 'Three-phase',
    kinds: ['appliance'],
    begins: { plug: 'industrial', use: 'movable' },
    more: { phases: 3 },
  },
  hardWired: { name: 'Hard-wired', kinds: ['appliance'], begins: { hardWired: true }, more: {} },
  medical: {
    name: 'Medical device',
    kinds: ['medicalDevice'],
    begins: { plug: 'moulded' },
    more: { detachable: true },
  },
  system: {
    name: 'Medical system',
    kinds: ['medicalSystem'],
    begins: { plug: 'moulded', use: 'movable' },
    more: {},
  },
} as const satisfies Record<string, Sort>;

export type SortName = keyof typeof sorts;

export const moreOf = (name: SortName): More => ({ ...nothingMore, ...(sorts[name].more as Partial<More>) });

/** Under which sort an item that is known would have been entered. */
export const sortOf = (it: Schema['SameModel']): SortName =>
  it.hardWired
    ? 'hardWired'
    : it.facts.phases === 3
      ? 'threePhase'
      : (it.facts.partPlates ?? []).length > 0
        ? 'combined'
        : ((Object.keys(sorts) as SortName[]).find((name) => (sorts[name] as Sort).kinds.includes(it.kind)) ??
          'appliance');
