import { onScopeDispose, ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import type { MatchingRequest, MatchingView } from '@/api/types';
import { newId } from '@/domain/identity';

/** How often work in the background is looked at, ms. */
const LOOK = 150;

/** Matching at work: begun, looked at until it is done, stopped. */
export function useMatching() {
  const view = ref<MatchingView>();
  const wrong = ref<Refusal>();
  let looking: number | undefined;
  onScopeDispose(() => window.clearTimeout(looking));

  async function take(answer: Promise<MatchingView>) {
    window.clearTimeout(looking);
    try {
      view.value = await answer;
      const { id, state } = view.value;
      if (state === 'running')
        looking = window.setTimeout(
          () => void take(ask('get', '/api/matchings/{matching}', { params: { path: { matching: id } } })),
          LOOK,
        );
    } catch (error) {
      wrong.value = refusal(error);
      view.value = undefined;
    }
  }
  function begin(asked: Omit<MatchingRequest, 'id'>) {
    wrong.value = undefined;
    return take(ask('post', '/api/matchings', { body: { id: newId(), ...asked } }));
  }
  const stop = () =>
    take(ask('post', '/api/matchings/{matching}/stop', { params: { path: { matching: view.value!.id } } }));
  return { view, wrong, begin, stop };
}
