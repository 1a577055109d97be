import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { EngineTest, Recording, SheetRecord } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { fileNotRead } from './words';

/** Sounds and currents of a check: read from files, the newest of each cylinder stands. */
export function useRecordings(of: {
  check: () => EngineTest;
  record: () => SheetRecord | undefined;
  /** What drove it, as typed among the conditions. */
  drive: () => string;
  begin: () => Promise<string>;
  say: (cylinder: number, cell: string, typed: string) => void;
}) {
  const job = useJob();
  const sound = computed(() => of.check() === 'listening');
  const wrong = ref('');
  /** The cylinder whose file is being read. */
  const reading = ref<number | null>(null);
  const newest = computed(() => {
    const by = new Map<number, Recording>();
    for (const one of of.record()?.recordings ?? []) by.set(one.cylinder, one);
    return by;
  });
  async function read(cylinder: number, event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (!file) return;
    reading.value = cylinder;
    wrong.value = '';
    try {
      const sheet = of.record()?.id ?? (await of.begin());
      const id = newId();
      const changed = await job.change('post', '/api/sheets/{sheet}/recordings', {
        params: { path: { sheet } },
        body: {
          id,
          check: of.check(),
          cylinder,
          name: file.name,
          drive: of.drive(),
          file: await base64(file),
        },
      });
      const sheets = changed.file.sheets ?? [];
      const made = sheets.flatMap((one) => one.recordings ?? []).find((one) => one.id === id);
      for (const figure of made?.figures ?? []) of.say(cylinder, figure.cell, figure.typed);
    } catch (error) {
      const said = refusal(error);
      const about = said.about('drive') ?? said.about('file') ?? said.message;
      wrong.value = `Cylinder ${cylinder}: ${about}`;
    } finally {
      reading.value = null;
      // The same file again is a choice as well.
      input.value = '';
    }
  }
  return { sound, newest, reading, wrong, read };
}

function base64(file: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '');
    reader.onerror = () => reject(reader.error ?? new Error(fileNotRead));
    reader.readAsDataURL(file);
  });
}

export type RecordingsHandle = ReturnType<typeof useRecordings>;
