<script setup lang="ts">
import { computed, watch } from 'vue';
import { useRoute } from 'vue-router';
import { usePresent } from '../stores/present.ts';
import { useSession } from '../stores/session.ts';
import { say } from '../i18n/say.ts';

/** Who else has this picture open. */
const route = useRoute();
const session = useSession();
const present = usePresent();
const place = computed(() => {
  const { job, picture } = route.params;
  return session.person && typeof job === 'string' && typeof picture === 'string' ? { job, picture } : null;
});
watch(
  () => [place.value?.job, place.value?.picture],
  (_now, _before, onCleanup) => {
    if (place.value) onCleanup(present.keepSaying(place.value.job, place.value.picture));
  },
  { immediate: true },
);
</script>

<template>
  <span v-if="present.here.length > 0" class="others" role="status">{{
    say('head.alsoHere', { names: present.here.join(', ') })
  }}</span>
</template>

<style scoped>
.others {
  max-width: 200px;
  overflow: hidden;
  padding: 1px 8px;
  border: 1px solid var(--head-soft);
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
