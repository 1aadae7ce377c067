<script setup lang="ts">
import type { PictureNature } from '@fennip/core/examine';
import { NATURES } from '@fennip/core/examine';
import type { Picture } from '@fennip/contract';
import { ref } from 'vue';
import { sentenceOf } from '@fennip/contract';
import { call } from '../../api/call.ts';
import { useJob } from '../../stores/job.ts';
import { say } from '../../i18n/say.ts';

/** What a picture is: a camera frame or a scanned print. It is guessed when the picture comes in, and can be corrected. */
const props = defineProps<{ picture: Picture }>();
const emit = defineEmits<{ changed: [picture: Picture]; failed: [reason: string] }>();
const job = useJob();
const isBusy = ref(false);

async function change(nature: PictureNature): Promise<void> {
  if (nature === props.picture.nature) return;
  isBusy.value = true;
  try {
    const changed = await job.newestOf(() =>
      call('changePicture', { picture: props.picture.id }, { nature }),
    );
    job.takePicture(changed);
    emit('changed', changed);
  } catch (error) {
    emit('failed', sentenceOf(error));
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <el-tooltip :content="say('nature.tip')" :show-after="600">
    <el-select
      class="nature"
      size="small"
      :model-value="picture.nature"
      :loading="isBusy"
      :aria-label="say('nature.of', { name: picture.name })"
      data-testid="nature"
      @change="change"
    >
      <el-option
        v-for="nature in NATURES"
        :key="nature"
        :value="nature"
        :label="say(`nature.choice.${nature}`)"
      />
    </el-select>
  </el-tooltip>
</template>

<style scoped>
.nature {
  flex: none;
  width: 132px;
}
</style>
