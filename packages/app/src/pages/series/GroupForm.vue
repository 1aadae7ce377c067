<script setup lang="ts">
import type { PictureChange } from '@fennip/contract';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useJob } from '../../stores/job.ts';
import { say } from '../../i18n/say.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/**
 * Says what pictures were taken with, where their files do not: a camera's body, or the scanner whose glass they all
 * lay on. A picture of nothing but a plain wall or sky is marked here too.
 */
const job = useJob();
const pictures = ref<string[]>([]);
const camera = ref('');
const isReference = ref(false);

const known = computed(() => [
  ...new Set(job.pictures.flatMap((picture) => (picture.camera === null ? [] : [picture.camera]))),
]);
async function group(): Promise<void> {
  const name = camera.value.trim();
  const change: PictureChange = {
    ...(name === '' ? {} : { camera: name }),
    isReference: isReference.value,
  };
  for (const id of pictures.value) job.takePicture(await call('changePicture', { picture: id }, change));
  pictures.value = [];
}
</script>

<template>
  <TaskForm :label="say('group.start')" :disabled="pictures.length === 0" :start="group">
    <WhichPictures v-model="pictures" />
    <label class="field"
      >{{ say('group.camera') }}
      <el-input
        v-model="camera"
        size="small"
        list="known-cameras"
        maxlength="120"
        :aria-label="say('group.camera')"
      />
    </label>
    <datalist id="known-cameras">
      <option v-for="name in known" :key="name" :value="name" />
    </datalist>
    <el-checkbox v-model="isReference">{{ say('group.reference') }}</el-checkbox>
    <p class="soft">{{ say('group.note') }}</p>
  </TaskForm>
</template>
