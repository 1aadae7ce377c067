<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import type { WordKey } from '@fennip/words';
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../../stores/session.ts';
import { say } from '../../i18n/say.ts';
import ProviderWay from './ProviderWay.vue';

/** Where somebody says who they are; then they are where they wanted to go. */
const session = useSession();
const route = useRoute();
const router = useRouter();
const name = ref('');
const password = ref('');
/** Why the way over the provider ended here. */
const FAILED: Readonly<Record<string, WordKey>> = {
  invited: 'refused.notInvited',
  provider: 'refused.provider',
};
const failed = FAILED[String(route.query['failed'])];
const problem = ref<string | null>(failed ? say(failed) : null);
const isAsking = ref(false);

async function signIn(): Promise<void> {
  problem.value = null;
  isAsking.value = true;
  try {
    await session.signIn(name.value, password.value);
    const { to } = route.query;
    // Only within this application.
    await router.replace(typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/');
  } catch (error) {
    problem.value = sentenceOf(error);
    password.value = '';
  } finally {
    isAsking.value = false;
  }
}
</script>

<template>
  <form class="card" @submit.prevent="signIn">
    <h1>{{ say('signIn') }}</h1>
    <label>
      <span>{{ say('signIn.name') }}</span>
      <el-input v-model="name" name="name" autocomplete="username" autofocus />
    </label>
    <label>
      <span>{{ say('signIn.password') }}</span>
      <el-input v-model="password" name="password" type="password" autocomplete="current-password" />
    </label>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <el-button
      type="primary"
      native-type="submit"
      :loading="isAsking"
      :disabled="name.trim() === '' || password === ''"
      >{{ say('signIn') }}</el-button
    >
    <ProviderWay />
  </form>
</template>

<style scoped src="./card.css"></style>
