<script setup lang="ts">
import type { Picture } from '@fennip/contract';
import { ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { say } from '../../i18n/say.ts';

/** One picture of the pieces of a torn print that lie on a scan. */
const props = defineProps<{ readonly picture: Picture }>();
const { problem, isTrying, trying } = useTrying();
const outcome = ref('');

const join = (): Promise<void> =>
  trying(async () => {
    outcome.value = '';
    const pictures = [props.picture.id];
    const { picture, found, laid } = await call('joinPictures', { job: props.picture.jobId }, { pictures });
    outcome.value =
      laid === found
        ? say('intake.joined', { name: picture.name, n: found })
        : say('intake.joinedPartly', { name: picture.name, n: found, laid });
  });
</script>

<template>
  <div class="join">
    <el-button
      size="small"
      text
      :loading="isTrying"
      :data-join="picture.name"
      :aria-label="say('intake.joinNamed', { name: picture.name })"
      @click="join"
      >{{ say('intake.join') }}</el-button
    >
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="outcome" role="status">{{ outcome }}</p>
  </div>
</template>

<style scoped>
.join {
  max-width: 236px;
}
p {
  margin: 4px 0 0;
  font-size: 13px;
}
.problem {
  color: var(--open);
}
</style>
