import labels from '@/api/labels.json';
import type {
  BenchKind,
  BenchTest,
  Column,
  Condition,
  Decision,
  DeviceKind,
  EngineEnd,
  FamilyKind,
  FamilyView,
  FaultCodes,
  FuelSystem,
  InstrumentKind,
  ItemState,
  Lately,
  Level,
  LimitCheck,
  Mark,
  Part,
  Phase,
  PlaceProof,
  Quantity,
  Regime,
  Role,
  RoundStage,
  Skill,
  SlotState,
  Stage,
  StepState,
  Suffers,
  Symptom,
  Trouble,
} from '@/api/types';

/** The words of the core, by code: made by `cargo xtask types`, never written here. */
export const MARK: Record<Mark, string> = labels.mark;
export const DECISION: Record<Decision, string> = labels.decision;
export const SYMPTOM: Record<Symptom, string> = labels.symptom;
export const FUEL: Record<FuelSystem, string> = labels.fuel;
export const REGIME: Record<Regime, string> = labels.regime;
export const ROLE: Record<Role, string> = labels.role;
export const END: Record<EngineEnd, string> = labels.end;
export const FAMILY_KIND: Record<FamilyKind, string> = labels.family_kind;
export const COIL: Record<FamilyView['coil_class'], string> = labels.coil;
export const LIMIT_CHECK: Record<LimitCheck, string> = labels.limit_check;
export const LIMIT_UNIT: Record<LimitCheck, string> = labels.limit_unit;
export const ROUND: Record<RoundStage, string> = labels.round;
export const BENCH: Record<BenchKind, string> = labels.bench;
export const BENCH_TEST: Record<BenchTest, string> = labels.bench_test;
export const COLUMN: Record<Column, string> = labels.column;
export const INSTRUMENT: Record<InstrumentKind, string> = labels.instrument;
export const WHEN: Record<Condition, string> = labels.when;
export const LATELY: Record<Lately, string> = labels.lately;
export const SUFFERS: Record<Suffers, string> = labels.suffers;
export const CODES: Record<FaultCodes, string> = labels.codes;
export const LEVEL: Record<Level, string> = labels.level;
export const SKILL: Record<Skill, string> = labels.skill;
export const DEVICE: Record<DeviceKind, string> = labels.device;
export const QUANTITY: Record<Quantity, string> = labels.quantity;
export const PHASE: Record<Phase, string> = labels.phase;
export const STEP: Record<StepState, string> = labels.step;
type Correction = keyof typeof labels.correction;
export const CORRECTION: Record<Correction, string> = labels.correction;
/** Why a reading was corrected: one of the list, or somebody's own words. */
export const corrected = (why: string) => (why in CORRECTION ? CORRECTION[why as Correction] : why);
export const TROUBLE: Record<Trouble, string> = labels.trouble;
export const PART: Record<Part, string> = labels.part;
export const PROOF: Record<ItemState, string> = labels.proof;
export const PLACE_PROOF: Record<PlaceProof, string> = labels.place_proof;
export const sayWhatWasSeen = 'Enter what was seen first: a tick alone is no proof.';
export const SLOT: Record<SlotState, string> = labels.slot;

export const STAGES = (Object.keys(labels.stage) as Stage[]).map((id) => ({
  id,
  word: labels.stage[id],
  path: id.replace('_', '-'),
}));

export function stage(id: Stage) {
  return STAGES.find((one) => one.id === id) ?? STAGES[0]!;
}

export const findAnything = 'find or do anything';
export const bookJob = 'book in a job';

/** Kinds of units that a workshop chooses one of each of, and the choices. */
export const UNIT_KIND = {
  pressure: 'Pressure',
  torque: 'Torque',
  temperature: 'Temperature',
  flow: 'Flow',
  distance: 'Distance',
} as const;
const options = (of: Record<string, string>) => Object.entries(of).map(([value, word]) => ({ value, word }));
export const UNITS = {
  pressure: options(labels.pressure),
  torque: options(labels.torque),
  temperature: options(labels.temperature),
  flow: options(labels.flow),
  distance: options(labels.distance),
} as const;
