<script setup lang="ts">
import type { Picture } from '@fennip/contract';
import { computed } from 'vue';
import { useJob } from '../../stores/job.ts';
import { say, sayCount } from '../../words/say.ts';
import { groupsOf } from './pictureGroups.ts';

/** Which pictures something is done on: whole groups by camera, or one by one. */
const chosen = defineModel<string[]>({ required: true });
const props = defineProps<{ only?: Picture['nature'] }>();
const job = useJob();

const groups = computed(() =>
  groupsOf(job.pictures.filter(({ nature }) => props.only === undefined || nature === props.only)),
);
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
    <details v-for="group in groups" :key="group.name">
      <summary>
        <el-checkbox
          :model-value="countIn(group.ids) === group.ids.length"
          :indeterminate="countIn(group.ids) > 0 && countIn(group.ids) < group.ids.length"
          @click.stop
          @change="(on: boolean | string | number) => turn(group.ids, on === true)"
          >{{ group.name }}</el-checkbox
        >
        <span class="soft">{{ sayCount('count.picture', countIn(group.ids)) }}</span>
      </summary>
      <el-checkbox
        v-for="picture in group.pictures"
        :key="picture.id"
        class="one"
        :model-value="chosen.includes(picture.id)"
        @change="(on: boolean | string | number) => turn([picture.id], on === true)"
        >{{ picture.name }}
        <span v-if="picture.capture.fNumber" class="soft figures">{{
          say('series.fNumber', { n: picture.capture.fNumber })
        }}</span></el-checkbox
      >
    </details>
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
summary {
  display: flex;
  align-items: center;
  gap: 10px;
  cursor: pointer;
}
summary::before {
  content: '▸';
  width: 12px;
  color: var(--text-soft);
}
details[open] > summary::before {
  content: '▾';
}
.one {
  display: flex;
  height: 26px;
  margin: 0 0 0 34px;
}
</style>
