/** What people call the roles. */
export const roleWords: Record<string, string> = {
  lead: 'lead',
  technician: 'technician',
  viewer: 'reads for a client',
};

export const roleSays: Record<string, string> = {
  lead: 'Opens rounds, sets house limits, reviews, and looks after people and books.',
  technician: 'Inspects and tests, registers items, corrects their facts.',
  viewer: 'Reads the register and the papers of one or more clients, and changes nothing.',
};
