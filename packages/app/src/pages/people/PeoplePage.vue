<script setup lang="ts">
import type { Person, Role } from '@fennip/contract';
import { ROLES } from '@fennip/contract';
import { onMounted, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { dayOf } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';

/** Who can sign in: invited by a link, taken away at once. */
const people = ref<Person[] | null>(null);
const { problem, trying } = useTrying();
const name = ref('');
const role = ref<Role>('works');
/** The invitation that was made last: its link is shown once. */
const invited = ref<{ readonly name: string; readonly link: string } | null>(null);

/** Does something, and asks who there is then. */
const change = (work: () => Promise<unknown>): Promise<void> =>
  trying(async () => {
    await work();
    people.value = await call('people', {});
  });

const invite = (): Promise<void> =>
  change(async () => {
    const who = name.value.trim();
    const { token } = await call('invite', {}, { name: who, role: role.value });
    invited.value = { name: who, link: `${location.origin}/invitation/${token}` };
    name.value = '';
  });
const copy = (link: string): Promise<void> => navigator.clipboard.writeText(link).catch(() => undefined);

onMounted(() => change(() => Promise.resolve()));
</script>

<template>
  <div class="page">
    <h1>{{ say('people') }}</h1>
    <form class="invite" @submit.prevent="invite">
      <el-input
        v-model="name"
        :placeholder="say('people.name')"
        :aria-label="say('people.name')"
        maxlength="120"
      />
      <el-select v-model="role" :aria-label="say('people.role')">
        <el-option v-for="one in ROLES" :key="one" :value="one" :label="say(`people.role.${one}`)" />
      </el-select>
      <el-button type="primary" native-type="submit" :disabled="name.trim() === ''">{{
        say('people.invite')
      }}</el-button>
    </form>
    <div v-if="invited" class="invited" role="status">
      <p>{{ say('people.invited', { name: invited.name }) }}</p>
      <p class="link">
        <code>{{ invited.link }}</code>
        <el-button size="small" @click="copy(invited.link)">{{ say('people.copy') }}</el-button>
        <el-button size="small" text @click="invited = null">{{ say('act.close') }}</el-button>
      </p>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="people === null && !problem" class="soft">{{ say('people.loading') }}</p>
    <ul v-else-if="people">
      <li v-for="person in people" :key="person.id">
        <strong>{{ person.name }}</strong>
        <span class="soft">{{ say(`people.role.${person.role}`) }}</span>
        <span class="soft">{{ dayOf(person.createdAt) }}</span>
        <el-popconfirm
          :title="say('people.removeAsk', { name: person.name })"
          :confirm-button-text="say('people.remove')"
          :cancel-button-text="say('bin.keep')"
          width="280"
          @confirm="change(() => call('removePerson', { person: person.id }))"
        >
          <template #reference>
            <el-button size="small" text :aria-label="say('people.removeNamed', { name: person.name })">{{
              say('people.remove')
            }}</el-button>
          </template>
        </el-popconfirm>
      </li>
    </ul>
  </div>
</template>

<style scoped src="../listPage.css"></style>

<style scoped>
.page {
  max-width: 760px;
}
.invite {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px auto;
  gap: 8px;
  margin: 16px 0 22px;
}
.invited {
  margin-bottom: 18px;
  padding: 4px 16px;
  border-left: 4px solid var(--chosen);
  background: var(--raised);
}
.link {
  display: flex;
  align-items: center;
  gap: 10px;
}
code {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 130px auto;
  align-items: center;
  gap: 12px;
  padding: 9px 16px;
  border: 1px solid var(--line);
  border-bottom-width: 0;
  background: var(--raised);
}
li:last-child {
  border-bottom-width: 1px;
}
</style>
