import { useTimestamp } from '@vueuse/core';

/** The time, four times a second, for as long as the component lives. */
export const useNow = () => useTimestamp({ interval: 250 });
