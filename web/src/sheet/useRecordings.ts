import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Recording, SheetForm, SheetRecord } from '@/api/types';
import { useConnections } from '@/connections/useConnections';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { hasMicrophone, recordHere } from './useMicrophone';
import { fileNotRead, fromFile, fromHere } from './words';

/** Where recordings come from: files, the microphone of this screen, or an instrument by its connection. */
const FILE = 'file';
const HERE = 'here';

/** Sounds and currents of a check: from files or instruments, the newest of each cylinder stands. */
export function useRecordings(of: {
  form: () => SheetForm | undefined;
  record: () => SheetRecord | undefined;
  /** What drove it, as typed among the conditions. */
  drive: () => string;
  begin: () => Promise<string>;
  say: (cylinder: number | null, cell: string, typed: string) => void;
}) {
  const job = useJob();
  const { all } = useConnections();
  const kind = computed(() => of.form()?.recorded?.kind);
  const sound = computed(() => kind.value === 'sound');
  const wrong = ref('');
  /** The cylinder whose recording is being read. */
  const reading = ref<number | null>(null);
  const newest = computed(() => {
    const by = new Map<number, Recording>();
    for (const one of of.record()?.recordings ?? []) by.set(one.cylinder, one);
    return by;
  });

  const sources = computed(() => {
    const takes = { sound: 'microphone', ramp: 'clamp', cranking: undefined }[kind.value ?? 'cranking'];
    const listed = all.value.filter((one) => one.connection.kind === takes);
    return [
      { value: FILE, word: fromFile },
      ...(sound.value && hasMicrophone() ? [{ value: HERE, word: fromHere }] : []),
      ...listed.map((one) => ({ value: one.connection.id, word: one.connection.name })),
    ];
  });
  const kept = useStorage<Record<string, string>>('record-with', {});
  const source = computed({
    get: () => sources.value.find((one) => one.value === kept.value[kind.value ?? ''])?.value ?? FILE,
    set: (value: string) => (kept.value = { ...kept.value, [kind.value ?? '']: value }),
  });

  /** Has it read by the program, and its figures put into the cells. */
  async function keep(cylinder: number, from: { name: string; file: string; connection: string | null }) {
    reading.value = cylinder;
    wrong.value = '';
    try {
      const sheet = of.record()?.id ?? (await of.begin());
      const id = newId();
      const changed = await job.change('post', '/api/sheets/{sheet}/recordings', {
        params: { path: { sheet } },
        body: { id, check: of.form()!.id, cylinder, drive: of.drive(), ...from },
      });
      const sheets = changed.file.sheets ?? [];
      const made = sheets.flatMap((one) => one.recordings ?? []).find((one) => one.id === id);
      for (const figure of made?.figures ?? [])
        of.say(figure.cylinder ?? cylinder, figure.cell, figure.typed);
    } catch (error) {
      const said = refusal(error);
      const about = said.about('drive') ?? said.about('file') ?? said.message;
      wrong.value = kind.value === 'cranking' ? about : `Cylinder ${cylinder}: ${about}`;
    } finally {
      reading.value = null;
    }
  }
  async function read(cylinder: number, event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (!file) return;
    await keep(cylinder, { name: file.name, file: await base64(file), connection: null });
    // The same file again is a choice as well.
    input.value = '';
  }
  /** With the instrument or the microphone that is chosen. */
  async function take(cylinder: number) {
    if (source.value !== HERE) return keep(cylinder, { name: '', file: '', connection: source.value });
    reading.value = cylinder;
    try {
      const heard = await recordHere();
      await keep(cylinder, { name: `${fromHere}.wav`, file: await base64(heard), connection: null });
    } catch (error) {
      wrong.value = error instanceof Error ? error.message : fileNotRead;
    } finally {
      reading.value = null;
    }
  }
  const byFile = computed(() => source.value === FILE);
  return { sound, kind, newest, reading, wrong, sources, source, byFile, read, take };
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
