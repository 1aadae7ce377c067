<script setup lang="ts">
import { useRouter } from 'vue-router';
import { useSession } from '../stores/session.ts';
import { say } from '../i18n/say.ts';

/** Who is signed in, and the way out. */
const session = useSession();
const router = useRouter();

async function leave(): Promise<void> {
  await session.signOut();
  await router.push({ name: 'sign-in' });
}
</script>

<template>
  <span v-if="session.person" class="who">
    <router-link v-if="session.person.role === 'runs'" :to="{ name: 'people' }">{{
      session.person.name
    }}</router-link>
    <span v-else>{{ session.person.name }}</span>
    <button type="button" @click="leave">{{ say('signIn.out') }}</button>
  </span>
</template>

<style scoped>
.who {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-left: auto;
  padding-left: 18px;
  white-space: nowrap;
}
.who a,
.who button {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
</style>
