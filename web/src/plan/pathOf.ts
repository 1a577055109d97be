import type { PlanStep } from '@/api/types';
import { stage as stageOf } from '@/words';

/** Where a step of the plan is done. */
export function pathOf(step: PlanStep, job: string): string {
  const stage = stageOf(step.stage);
  if (step.id === 'swap') return `/jobs/${job}/on-engine/swap`;
  if (step.id === 'return_test') return `/jobs/${job}/on-engine`;
  return `/jobs/${job}/${stage.path}${step.check ? '/' + step.check : ''}`;
}
