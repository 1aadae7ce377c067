<script setup lang="ts">
import { addressOf } from '@fennip/contract';
import { computed } from 'vue';
import { useSession } from '../../stores/session.ts';
import { say } from '../../i18n/say.ts';

/** The way over the provider, where there is one: a link that leaves the page and comes back. */
const props = defineProps<{ readonly invitation?: string }>();
const session = useSession();
const address = computed(() =>
  addressOf('openIdSignIn', {}, props.invitation === undefined ? {} : { invitation: props.invitation }),
);
</script>

<template>
  <p v-if="session.provider !== null" class="provider">
    <span class="soft">{{ say('signIn.or') }}</span>
    <a :href="address">{{ say('signIn.provider', { name: session.provider }) }}</a>
  </p>
</template>

<style scoped>
.provider {
  display: flex;
  gap: 8px;
  margin: 0;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
</style>
