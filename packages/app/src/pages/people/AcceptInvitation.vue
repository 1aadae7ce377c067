<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../../stores/session.ts';
import { say } from '../../i18n/say.ts';
import ProviderWay from './ProviderWay.vue';

/** Where somebody who was invited chooses a password. */
const session = useSession();
const route = useRoute();
const router = useRouter();
const password = ref('');
const again = ref('');
const problem = ref<string | null>(null);
/** As the server asks for. */
const FEWEST_LETTERS = 12;
const isFit = computed(() => password.value.length >= FEWEST_LETTERS && password.value === again.value);

async function accept(): Promise<void> {
  problem.value = null;
  try {
    await session.accept(String(route.params['token']), password.value);
    await router.replace('/');
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
</script>

<template>
  <form class="card" @submit.prevent="accept">
    <h1>{{ say('invitation') }}</h1>
    <p class="soft">{{ say('invitation.does', { n: FEWEST_LETTERS }) }}</p>
    <label>
      <span>{{ say('signIn.password') }}</span>
      <el-input v-model="password" name="password" type="password" autocomplete="new-password" />
    </label>
    <label>
      <span>{{ say('invitation.again') }}</span>
      <el-input v-model="again" name="again" type="password" autocomplete="new-password" />
    </label>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <el-button type="primary" native-type="submit" :disabled="!isFit">{{
      say('invitation.accept')
    }}</el-button>
    <ProviderWay :invitation="String(route.params['token'])" />
  </form>
</template>

<style scoped src="./card.css"></style>
