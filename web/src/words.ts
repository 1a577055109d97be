import type {
  BenchKind,
  ItemState,
  SlotState,
  Part,
  Trouble,
  BenchTest,
  Column,
  Condition,
  RoundStage,
  FaultCodes,
  Lately,
  Phase,
  StepState,
  Suffers,
  Decision,
  EngineEnd,
  FamilyKind,
  FamilyView,
  FuelSystem,
  InstrumentKind,
  LimitCheck,
  Mark,
  Regime,
  Stage,
  Symptom,
} from '@/api/types';

/** The words of the workshop for everything that the program names. */
export const MARK: Record<Mark, string> = {
  inside: 'inside',
  too_much: 'too much',
  too_little: 'too little',
  look: 'look closer',
  undecided: 'undecided',
  questioned: 'in question',
  not_measured: 'not read',
};

export const STAGES: { id: Stage; word: string; path: string }[] = [
  { id: 'take_in', word: 'Take in', path: 'take-in' },
  { id: 'rule_out', word: 'Rule out', path: 'rule-out' },
  { id: 'electrical', word: 'Electrical', path: 'electrical' },
  { id: 'on_engine', word: 'On engine', path: 'on-engine' },
  { id: 'bench', word: 'Bench', path: 'bench' },
  { id: 'decide', word: 'Decide', path: 'decide' },
  { id: 'refit', word: 'Refit & code', path: 'refit' },
  { id: 'prove', word: 'Prove', path: 'prove' },
];

export function stage(id: Stage) {
  return STAGES.find((one) => one.id === id) ?? STAGES[0]!;
}

export const DECISION: Record<Decision, string> = {
  leave: 'Leave',
  clean: 'Clean',
  adjust: 'Adjust',
  recode: 'Recode',
  match: 'Match or move',
  replace: 'Replace or recondition',
  repair_harness: 'Repair the harness',
  look_elsewhere: 'Look elsewhere',
  measure_again: 'Measure again',
};

export const SYMPTOM: Record<Symptom, string> = {
  misfire_light_load: 'misfire at light load',
  misfire_load: 'misfire under load',
  rough_idle: 'rough idle',
  long_crank_cold: 'long crank, cold',
  long_crank_hot: 'long crank, hot',
  no_start: 'does not start',
  black_smoke: 'black smoke',
  white_smoke: 'white smoke',
  blue_smoke: 'blue smoke',
  high_consumption: 'high consumption',
  knock: 'knock',
  low_power: 'low power',
  check_and_clean: 'check and clean',
};

export const FUEL: Record<FuelSystem, string> = {
  diesel_solenoid: 'Diesel, solenoid',
  diesel_piezo: 'Diesel, piezo',
  petrol_port: 'Petrol, port',
  petrol_direct: 'Petrol, direct',
  exhaust_doser: 'Exhaust doser',
};

export const REGIME: Record<Regime, string> = {
  idle_only: 'Idle only',
  stepped: 'Idle, raised, idle',
  cranking: 'Cranking',
};

export const END: Record<EngineEnd, string> = { pulley: 'pulley end', flywheel: 'flywheel end' };

export const FAMILY_KIND: Record<FamilyKind, string> = {
  diesel_solenoid: 'Diesel, solenoid',
  diesel_piezo: 'Diesel, piezo',
  petrol_port_high: 'Petrol, port, high resistance',
  petrol_port_low: 'Petrol, port, low resistance',
  petrol_direct_solenoid: 'Petrol, direct, solenoid',
  petrol_direct_piezo: 'Petrol, direct, piezo',
  exhaust_doser: 'Exhaust doser',
};

export const COIL: Record<FamilyView['coil_class'], string> = {
  high_impedance: 'An ordinary meter can judge its coil.',
  low_impedance: 'A few ohms: zero the leads before its coil is judged.',
  sub_ohm: 'Its coil is well below an ohm: an ordinary meter cannot decide.',
  piezo: 'A piezo stack: judged by capacitance and insulation, never by a coil window.',
};

export const LIMIT_CHECK: Record<LimitCheck, string> = {
  return_flow: 'return flow',
  coil_resistance: 'coil resistance at 20 °C',
  insulation: 'insulation',
  static_flow: 'static flow',
  delivered: 'delivered quantity',
  returned: 'returned quantity',
  opening_pressure: 'opening pressure',
  leak_volume: 'leak volume',
  doser_volume: 'doser volume',
  lift: 'lift',
  opening_delay: 'opening delay',
};

export const ROUND: Record<RoundStage, string> = {
  received: 'as received',
  cleaned: 'cleaned',
  adjusted: 'adjusted',
  final: 'final',
};

export const BENCH: Record<BenchKind, string> = {
  petrol: 'Petrol bench',
  diesel: 'Diesel bench',
  doser: 'Doser bench',
};

export const BENCH_TEST: Record<BenchTest, string> = {
  drive: 'Drive',
  visual: 'Seen',
  leak: 'Leak',
  spray: 'Spray',
  flow: 'Flow',
  sweep: 'Pulse sweep',
  supply_offset: 'Dead time against supply',
  cleaning: 'Cleaning',
  map: 'Bench map',
  lift: 'Lift',
  parts: 'Parts and coils',
  trim_code: 'Trim code',
  doser: 'Doser',
};

export const COLUMN: Record<Column, string> = {
  skip: 'not needed',
  tag: 'tag',
  position: 'position',
  label: 'label',
  point: 'point',
  volume: 'tube',
  delivered: 'delivered',
  returned: 'returned',
  delay: 'opening delay',
};

export const INSTRUMENT: Record<InstrumentKind, string> = {
  bottles: 'Bottles',
  timer: 'Timer',
  meter: 'Meter',
  gauge: 'Gauge',
  bench: 'Bench',
};

export const WHEN: Record<Condition, string> = {
  cold: 'cold',
  hot: 'hot',
  idle: 'at idle',
  light_load: 'at light load',
  load: 'under load',
  cranking: 'cranking',
  after_standing: 'after standing',
  after_refuelling: 'after refuelling',
};

export const LATELY: Record<Lately, string> = {
  refuelled_elsewhere: 'refuelled elsewhere',
  ran_dry: 'ran dry',
  filter_changed: 'filter changed',
  injectors_out: 'injectors were out',
  other_repair: 'other repair',
  stood_long: 'stood long',
};

export const SUFFERS: Record<Suffers, string> = {
  not_known: 'not known',
  one: 'one',
  several: 'several',
  all: 'all',
};

export const CODES: Record<FaultCodes, string> = {
  not_read: 'not read yet',
  none: 'none stored',
  stored: 'stored',
};

export const PHASE: Record<Phase, string> = {
  idle: 'Idle',
  raised: 'Raised speed',
  idle_again: 'Idle again',
};

export const STEP: Record<StepState, string> = {
  open: 'to do',
  waits: 'waits',
  done: 'done',
  spared: 'not needed',
  skipped: 'left out',
};

export const TROUBLE: Record<Trouble, string> = {
  stuck: 'Stuck in the bore',
  seal_left_behind: 'Seal left behind',
  thread: 'Thread damaged',
  seat_burnt: 'Seat burnt or pitted',
  line_damaged: 'Line or connector damaged',
  other: 'Something else',
};

export const PART: Record<Part, string> = {
  new: 'New',
  reconditioned: 'Reconditioned',
  tested: 'Tested, off the shelf',
};

export const PROOF: Record<ItemState, string> = {
  open: 'open',
  good: 'good',
  failed: 'failed',
  unsure: 'no proof yet',
  left_out: 'left out',
};

export const SLOT: Record<SlotState, string> = {
  fits: 'fits',
  differs: 'another code',
  elsewhere: 'of another cylinder',
  empty: 'empty',
  not_known: 'not known',
  not_read: 'not read yet',
  not_captured: 'no code yet',
};
