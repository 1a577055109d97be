/** What this part says in sentences. */
/** Bottles as many workshops have them: capacity and distance of the marks, ml. */
export const BOTTLES = [
  { name: 'Bottles 100 ml (house)', capacity: '100', resolution: '2' },
  { name: 'Bottles 250 ml (house)', capacity: '250', resolution: '5' },
];
/** Cleaning fluids in general words, each with what to mind. */
export const FLUIDS = [
  {
    name: 'water-based cleaner, warm (house)',
    cells: [
      { cell: 'fluid', typed: '0' },
      { cell: 'minutes', typed: '12' },
    ],
    note: 'May be warmed. Gloves, eye protection, cover on. Rinse and dry before the next flow test.',
  },
  {
    name: 'solvent, cold (house)',
    cells: [
      { cell: 'fluid', typed: '1' },
      { cell: 'minutes', typed: '8' },
    ],
    note: 'Flammable: never heat the bath. Extraction on, no ignition source, licensed disposal.',
  },
];
export const firstStepsDone = (done: number, all: number) => `First steps: ${done} of ${all} done.`;
export const loadStarter = 'Load the starter library';
export const bookFirst = 'Book in the first job';
