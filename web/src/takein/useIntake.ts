import { reactive, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Condition, FaultCodes, Intake, JobView, Lately, Suffers } from '@/api/types';
import { newId } from '@/domain/identity';
import { useMaybeJob } from '@/job/useJob';
import { sayHeadline } from '@/shell/useHeadline';
import { bookJob } from '@/takein/words';

/** What is typed of a job before it is kept. */
export interface Draft {
  id: string;
  intake: Intake;
  labels: string[];
}
const DRAFT = 'draft-take-in';

function blank(): Draft {
  const layout = { cylinders: 4, banks: 1, first_at: 'pulley', numbering: 'bank_by_bank' } as const;
  const intake = {
    customer: '',
    customer_id: null,
    machine: '',
    plate: '',
    promised: null,
    usage: '',
    engine: '',
    fuel_system: 'diesel_solenoid' as const,
  };
  return {
    id: newId(),
    intake: { ...intake, layout, family_id: null, symptoms: [], complaint: '', story: told() },
    labels: [],
  };
}
const told = () => ({
  when: [] as Condition[],
  suffers: 'not_known' as Suffers,
  fault_codes: 'not_read' as FaultCodes,
  codes: '',
  lately: [] as Lately[],
  cylinders: [] as number[],
});
function stored(): Draft {
  const text = localStorage.getItem(DRAFT);
  const draft = text ? (JSON.parse(text) as Draft) : blank();
  draft.intake.story = { ...told(), ...draft.intake.story };
  return draft;
}
function ofJob(view: JobView): Draft {
  const { id, intake, injectors } = view.file.job;
  const draft = JSON.parse(
    JSON.stringify({ id, intake, labels: injectors.map((one) => one.label) }),
  ) as Draft;
  draft.intake.story = { ...told(), ...draft.intake.story };
  return draft;
}

/** Takes in a job, or changes what was taken in; what is typed outlives a reload. */
export function useIntake() {
  const router = useRouter();
  const job = useMaybeJob();
  const held = job?.view.value;
  const draft = reactive<Draft>(held ? ofJob(held) : stored());
  const revision = ref(held?.file.job.revision ?? 0);
  const wrong = ref<Refusal>();
  const kept = ref(false);
  if (!job) {
    sayHeadline(bookJob);
    watch(draft, (draft) => localStorage.setItem(DRAFT, JSON.stringify(draft)), { deep: true });
  }
  const state = (field: string) => (wrong.value?.about(field) ? 'error' : '');
  async function keep() {
    try {
      if (job) {
        const body = { revision: revision.value, intake: draft.intake, labels: draft.labels };
        const view = await job.change('put', '/api/jobs/{job}/intake', {
          params: { path: { job: draft.id } },
          body,
        });
        revision.value = view.file.job.revision;
        kept.value = true;
      } else {
        const { job: taken } = await act('post', '/api/jobs', { body: draft });
        localStorage.removeItem(DRAFT);
        await router.push(`/jobs/${taken}/take-in/plan`);
      }
      wrong.value = undefined;
    } catch (error) {
      wrong.value = refusal(error);
      kept.value = false;
    }
  }
  /** Take what the other one wrote; what is typed here is on screen until then. */
  function takeTheirs() {
    if (!wrong.value?.current) return;
    revision.value = wrong.value.current.revision;
    draft.intake = JSON.parse(JSON.stringify(wrong.value.current.intake)) as Intake;
    draft.labels = wrong.value.current.injectors.map((one) => one.label);
    wrong.value = undefined;
  }
  function keepMine() {
    if (!wrong.value?.current) return;
    revision.value = wrong.value.current.revision;
    void keep();
  }
  return { job, draft, wrong, kept, state, keep, takeTheirs, keepMine };
}
