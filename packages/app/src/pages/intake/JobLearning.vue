<script setup lang="ts">
import type { JobLearning } from '@fennip/contract';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { useJob } from '../../stores/job.ts';
import { useSession } from '../../stores/session.ts';
import { say, sayCount } from '../../i18n/say.ts';

/** From how many decisions the finder has learned for the later pictures of a job, and a way to forget them. */
const props = defineProps<{ readonly job: string }>();
const session = useSession();
const sheet = useJob();
const learning = ref<JobLearning | null>(null);
const { problem, isTrying, trying } = useTrying();
const mayChange = computed(() => session.person === null || session.person.role !== 'sees');

const load = (): Promise<void> =>
  trying(async () => {
    learning.value = await call('learning', { job: props.job });
  });
const forget = (): Promise<void> =>
  trying(async () => {
    learning.value = await call('forgetLearning', { job: props.job });
  });
// What was decided last may only be saved while this is opened already.
watchDebounced(() => sheet.pictures.map(({ revision }) => revision).join(), load, {
  debounce: 400,
  immediate: true,
});
</script>

<template>
  <el-popover v-if="learning && learning.decisions > 0" trigger="click" width="320" placement="bottom-start">
    <template #reference>
      <button type="button" class="link" data-testid="learning" @click="load">
        {{ sayCount('learning', learning.decisions) }}
      </button>
    </template>
    <p class="says">{{ say('learning.says', { n: learning.pictures }) }}</p>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <el-button size="small" :disabled="!mayChange" :loading="isTrying" data-testid="forget" @click="forget">{{
      say('learning.forget')
    }}</el-button>
  </el-popover>
</template>

<style scoped>
.says {
  margin: 0 0 8px;
}
</style>
