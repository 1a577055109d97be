import { useEventListener, useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { newId } from '@/domain/identity';
import { useBench } from '@/shell/useBench';
import {
  beside,
  PIN,
  refusal,
  sent,
  urlOf,
  type Address,
  type Answer,
  type Asked,
  type Refusal,
} from './client';

/**
 * What a person did and the program has not answered yet. A command gets its id when the person acts
 * and keeps it through every retry, a reload and a restart, so that a lost answer neither doubles nor
 * drops it.
 */
interface Command {
  id: string;
  method: 'POST' | 'PUT';
  path: string;
  body: string;
  by: string;
  /** The units that stood beside the fields when it was typed. */
  units?: string;
  /** The PIN of a second signature: it leaves this page with the request alone, and is stored nowhere. */
  pin?: string;
  /** What it asks, without ids: the same asked again after a failure is the same command. */
  asks: string;
  /** When the person acted, ms. */
  at: number;
  /** The person was told that it failed, and may try again. */
  told: boolean;
  /** The program has answered since then. */
  answered: boolean;
}

const STORED = 'outbox-';
/** Larger bodies are files: they are kept by the person, not by this browser. */
const LARGEST = 200_000;
/** Pauses between the tries that a person waits for, ms. */
const PAUSES = [250, 900];
/** How often what was not answered is sent again, and how long an answered one is remembered, ms. */
const AGAIN = 4_000;
const REMEMBERED = 600_000;

const commands = ref<Command[]>([]);
/** What was refused when it was sent again: the person has to know, and do it anew. */
export const refused = ref<{ id: string; says: string }[]>([]);
/** The person has seen that an entry was refused. */
export function saw(id: string): void {
  refused.value = refused.value.filter((one) => one.id !== id);
}
/** Entries that are not kept yet. */
export const unkept = computed(() => commands.value.filter((one) => one.told && !one.answered).length);

let changed: () => void = () => undefined;
/** What to do when something was kept that no view was waiting for. */
export function whenKept(run: () => void): void {
  changed = run;
}

/** Everything that is asked, without the ids that are made for it; what is put somewhere has its own. */
function asks(method: string, path: string, body: unknown): string {
  const bare = JSON.stringify(body, (name, value) =>
    method === 'POST' && name === 'id' ? undefined : value,
  );
  return `${method} ${path} ${bare}`;
}

function store(command: Command): void {
  if (command.body.length > LARGEST) return;
  try {
    localStorage.setItem(STORED + command.id, JSON.stringify({ ...command, pin: undefined }));
  } catch {
    // A full store loses the retry after a reload, not the entry.
  }
}
function forget(command: Command): void {
  localStorage.removeItem(STORED + command.id);
  commands.value = commands.value.filter((one) => one.id !== command.id);
}

/** Nothing else comes of it. Whoever was signed out meanwhile signs in, and it is sent then. */
const definite = ({ status, code }: Refusal) => status > 0 && status !== 503 && code !== 'signed_out';
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

function send(command: Command): Promise<unknown> {
  return sent(command.method, command.path, command.body, command.by, command.id, command.units, command.pin);
}

/** Does something, once, however often it has to be sent. Throws a {@link Refusal}, never anything else. */
export async function act<M extends 'post' | 'put', P extends Address<M>>(
  method: M,
  address: P,
  ...init: Asked<P, M>
): Promise<Answer<P, M>> {
  const asked = init[0] as { params?: { header?: Record<string, string> }; body?: unknown } | undefined;
  const path = urlOf(address, asked?.params ?? {});
  const pin = asked?.params?.header?.[PIN];
  return (await doing(method === 'put' ? 'PUT' : 'POST', path, asked?.body, pin)) as Answer<P, M>;
}

async function doing(method: 'POST' | 'PUT', path: string, body: unknown, pin?: string): Promise<unknown> {
  const text = typeof body === 'string' ? body : body === undefined ? '' : JSON.stringify(body);
  const by = useBench().id.value;
  const asked = text.length > LARGEST ? '' : asks(method, path, body);
  const failed = commands.value.find((one) => one.told && one.by === by && asked && one.asks === asked);
  const command: Command = failed ?? {
    id: (body as { id?: string } | undefined)?.id ?? newId(),
    method,
    path,
    body: text,
    by,
    units: beside.units,
    pin,
    asks: asked,
    at: Date.now(),
    told: false,
    answered: false,
  };
  command.pin = pin;
  if (!failed) commands.value.push(command);
  store(command);
  for (let tries = 0; ; tries++) {
    try {
      const answer = await send(command);
      forget(command);
      return answer;
    } catch (error) {
      const problem = refusal(error);
      if (definite(problem)) {
        forget(command);
        throw problem;
      }
      const wait = problem.status === 401 ? undefined : PAUSES[tries];
      if (wait === undefined) {
        // Unless it went through meanwhile, it is sent again until the program answers.
        tell(command.id);
        throw problem;
      }
      await pause(wait);
    }
  }
}

function tell(id: string): void {
  const held = commands.value.find((one) => one.id === id);
  if (!held) return;
  held.told = true;
  store(held);
}

let sending = false;
/** Sends again what was not answered, in the order in which it was done. */
export async function sendAgain(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    const old = commands.value.filter((one) => one.answered && Date.now() - one.at > REMEMBERED);
    old.forEach(forget);
    const bench = useBench();
    // What somebody else did waits until that person is in again: nobody signs it for another.
    const mine = (one: Command) => bench.open.value || one.by === bench.id.value;
    for (const command of commands.value.filter((one) => one.told && !one.answered && mine(one))) {
      try {
        await send(command);
        command.answered = true;
        store(command);
        changed();
      } catch (error) {
        const problem = refusal(error);
        if (!definite(problem)) break;
        forget(command);
        refused.value.push({ id: command.id, says: problem.fields[0]?.message ?? problem.message });
        changed();
      }
    }
  } finally {
    sending = false;
  }
}

/** Takes up what an earlier page of this browser left behind, and goes on sending. */
export function resume(): void {
  for (const name of Object.keys(localStorage).filter((one) => one.startsWith(STORED))) {
    try {
      const held = JSON.parse(localStorage.getItem(name) ?? '') as Command;
      if (Date.now() - held.at > REMEMBERED && held.answered) {
        localStorage.removeItem(name);
        continue;
      }
      // Pages of an older version left addresses behind that began after `/api`.
      const path = held.path.startsWith('/api') ? held.path : `/api${held.path}`;
      commands.value.push({ ...held, path, told: true });
    } catch {
      localStorage.removeItem(name);
    }
  }
  commands.value.sort((one, other) => one.at - other.at);
  void sendAgain();
  useIntervalFn(() => void sendAgain(), AGAIN);
  useEventListener(window, 'online', () => void sendAgain());
}
