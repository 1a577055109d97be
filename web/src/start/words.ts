/** What this part says in sentences. */
export const HOUSE = 'House value by class of coil; no maker’s figure';
/** Families by class of coil, for a workshop that has no limits yet: house values, clearly marked. */
export const STARTER = [
  'family,kind,check,condition,lower,upper,from_c,to_c,from_kpa,to_kpa,source',
  `Port injector · high impedance (house),petrol_port_high,coil_resistance,,10.5,18.5,,,,,${HOUSE}`,
  `Port injector · low impedance (house),petrol_port_low,coil_resistance,,1.3,5.6,,,,,${HOUSE}`,
  `Direct injector · solenoid (house),petrol_direct_solenoid,coil_resistance,,0.8,3.2,,,,,${HOUSE}`,
  `Common rail · solenoid (house),diesel_solenoid,coil_resistance,,0.15,0.9,,,,,${HOUSE}`,
  `Common rail · piezo (house),diesel_piezo,insulation,,9,,,,,,${HOUSE}`,
].join('\n');
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
