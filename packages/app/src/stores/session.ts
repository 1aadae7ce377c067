import type { Person, Session } from '@fennip/contract';
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { call } from '../api/call.ts';

/** Who is signed in, where anybody must be. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null);
  const isNeeded = ref(false);
  /** What people see of the provider that they can sign in with; null where there is none. */
  const provider = ref<string | null>(null);

  function take(session: Session): void {
    isNeeded.value = session.isNeeded;
    person.value = session.person;
    provider.value = session.provider;
  }

  /** Asks the server; where it cannot be reached nothing is known. */
  async function load(): Promise<void> {
    take(await call('session', {}).catch(() => ({ isNeeded: false, person: null, provider: null })));
  }

  /** @throws AnswerError where name and password do not go together */
  async function signIn(name: string, password: string): Promise<void> {
    take(await call('signIn', {}, { name, password }));
  }

  /** @throws AnswerError where the invitation is used up or too old */
  async function accept(token: string, password: string): Promise<void> {
    take(await call('acceptInvitation', { token }, { password }));
  }

  async function signOut(): Promise<void> {
    await call('signOut', {}).catch(() => undefined);
    person.value = null;
  }

  return { person, isNeeded, provider, load, signIn, accept, signOut };
});
