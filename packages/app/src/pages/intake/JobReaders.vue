<script setup lang="ts">
import type { JobAccess } from '@fennip/contract';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { useSession } from '../../stores/session.ts';
import { say, sayCount } from '../../i18n/say.ts';

/** Who sees a job, where people sign in: everybody, or whom it belongs to and those who are named. */
const props = defineProps<{ readonly job: string }>();
const session = useSession();
const access = ref<JobAccess | null>(null);
const { problem, trying } = useTrying();
const mayChange = computed(() => session.person !== null && session.person.role !== 'sees');
const named = computed(() => access.value?.readers.filter(({ sees }) => sees) ?? []);

const take = (work: () => Promise<JobAccess>): Promise<void> =>
  trying(async () => {
    access.value = await work();
  });
const load = (): Promise<void> => take(() => call('jobAccess', { job: props.job }));
const share = (everybody: boolean, people: readonly string[]): Promise<void> =>
  take(() => call('changeJobAccess', { job: props.job }, { everybody, people: [...people] }));
const choose = (id: string, sees: boolean): Promise<void> => {
  const others = named.value.filter((one) => !one.always && one.id !== id).map((one) => one.id);
  return share(false, sees ? [...others, id] : others);
};
void load();
</script>

<template>
  <el-popover trigger="click" width="320" placement="bottom-start">
    <template #reference>
      <button type="button" class="link" data-testid="readers" @click="load">
        {{ access?.everybody ? say('readers.everybody') : sayCount('readers.some', named.length) }}
      </button>
    </template>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <fieldset v-if="access" :disabled="!mayChange">
      <legend>{{ say('readers') }}</legend>
      <el-checkbox
        :model-value="access.everybody"
        :disabled="!mayChange"
        @change="(on: unknown) => share(Boolean(on), [])"
        >{{ say('readers.all') }}</el-checkbox
      >
      <ul v-if="!access.everybody">
        <li v-for="{ id, name, always, sees } in access.readers" :key="id">
          <el-checkbox
            :model-value="sees"
            :disabled="always || !mayChange"
            @change="(on: unknown) => choose(id, Boolean(on))"
            >{{ name }}</el-checkbox
          >
        </li>
      </ul>
    </fieldset>
  </el-popover>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 6px;
  font-weight: 600;
}
ul {
  max-height: 240px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
</style>
