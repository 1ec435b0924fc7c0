import type { Schema } from '../api/client';

export const kinds: Record<Schema['ItemKind'], string> = {
  appliance: 'Appliance',
  cordSet: 'Cord set (detachable lead)',
  extensionLead: 'Extension lead',
  multiwayAdapter: 'Multiway adaptor',
  portableRcd: 'Portable RCD',
  medicalDevice: 'Medical device',
  medicalSystem: 'Medical system',
};

export const uses: Record<Schema['UseOf'], string> = {
  handheld: 'held in the hand',
  portable: 'portable',
  movable: 'movable',
  stationary: 'stationary',
  it: 'IT equipment',
  fixed: 'fixed',
};

export const places: Record<Schema['Place'], string> = {
  office: 'office, shop, hotel staff area',
  school: 'school, public access',
  kitchen: 'kitchen, cleaning, laundry',
  workshop: 'workshop, light industry',
  heavy: 'heavy industry, outdoors, damp',
  construction: 'construction site',
  hire: 'hire',
  home: 'rented home',
  medical: 'medical',
};

export const usages: Record<Schema['Usage'], string> = {
  normal: 'normal',
  rare: 'less than monthly',
  constant: 'all day',
};
export const moves: Record<Schema['Moved'], string> = {
  sometimes: 'sometimes',
  never: 'never',
  daily: 'daily',
};
export const users: Record<Schema['Users'], string> = {
  trained: 'trained, they report',
  unknown: 'public or unknown',
};

/** Where an item stands, in words. */
export const states: Record<Schema['ItemState'], string> = {
  inService: 'in service',
  quarantined: 'quarantined',
  inRepair: 'in repair',
  scrapped: 'scrapped',
  lost: 'lost',
};

export const plugs: Record<Schema['PlugType'], string> = {
  rewirable: 'Rewirable',
  moulded: 'Moulded on',
  industrial: 'Industrial, no fuse',
};
