<script setup lang="ts">
import type { Picture } from '@fennip/contract';
import { computed, ref } from 'vue';
import { useJob } from '../../stores/job.ts';
import { say, sayCount } from '../../i18n/say.ts';
import { groupsOf } from './pictureGroups.ts';

/** Which pictures something is done on: whole groups by camera, or one by one. */
const chosen = defineModel<string[]>({ required: true });
const props = defineProps<{
  /** Which are offered at all; every ready one where it is left out. */
  fits?: (picture: Picture) => boolean;
}>();
const job = useJob();

const groups = computed(() => groupsOf(job.pictures.filter((picture) => props.fits?.(picture) ?? true)));
const unfolded = ref(new Set<string>());
function unfold(name: string): void {
  if (!unfolded.value.delete(name)) unfolded.value.add(name);
}
const countIn = (ids: readonly string[]): number => ids.filter((id) => chosen.value.includes(id)).length;

function turn(ids: readonly string[], on: boolean): void {
  const rest = chosen.value.filter((id) => !ids.includes(id));
  chosen.value = on ? [...rest, ...ids] : rest;
}
</script>

<template>
  <fieldset class="which">
    <legend>{{ say('series.which') }}</legend>
    <p v-if="groups.length === 0" class="soft">{{ say('series.which.none') }}</p>
    <div v-for="group in groups" :key="group.name">
      <div class="group">
        <button
          type="button"
          class="unfold"
          :aria-expanded="unfolded.has(group.name)"
          :aria-label="say('series.unfold', { name: group.name })"
          @click="unfold(group.name)"
        >
          {{ unfolded.has(group.name) ? '▾' : '▸' }}
        </button>
        <el-checkbox
          :model-value="countIn(group.ids) === group.ids.length"
          :indeterminate="countIn(group.ids) > 0 && countIn(group.ids) < group.ids.length"
          @change="(on: boolean | string | number) => turn(group.ids, on === true)"
          >{{ group.name }}</el-checkbox
        >
        <span class="soft">{{
          say('series.chosen', { n: countIn(group.ids), all: sayCount('count.picture', group.ids.length) })
        }}</span>
      </div>
      <template v-if="unfolded.has(group.name)">
        <el-checkbox
          v-for="picture in group.pictures"
          :key="picture.id"
          class="one"
          :model-value="chosen.includes(picture.id)"
          @change="(on: boolean | string | number) => turn([picture.id], on === true)"
          >{{ picture.name }}
          <span v-if="picture.capture.fNumber" class="soft figures">{{
            say('series.fNumber', { n: picture.capture.fNumber })
          }}</span>
          <span v-if="picture.isReference" class="soft">{{ say('series.reference') }}</span></el-checkbox
        >
      </template>
    </div>
  </fieldset>
</template>

<style scoped>
.which {
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 4px;
  font-weight: 600;
}
.group {
  display: flex;
  align-items: center;
  gap: 10px;
}
.unfold {
  width: 24px;
  height: 24px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--text-soft);
  cursor: pointer;
}
.one {
  display: flex;
  height: 26px;
  margin: 0 0 0 34px;
}
</style>
