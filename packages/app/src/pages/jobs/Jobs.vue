<script setup lang="ts">
import { LANGUAGE_NAMES } from '@fennip/words';
import { locale, takeLanguage, words } from '../../i18n/language.ts';
import { sentenceOf } from '@fennip/contract';
import type { Job } from '@fennip/contract';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../../api/call.ts';
import TakenAway from '../../controls/TakenAway.vue';
import { say, sayCount } from '../../i18n/say.ts';

const router = useRouter();
const jobs = ref<Job[] | null>(null);
const name = ref('');
const problem = ref<string | null>(null);

async function load(): Promise<void> {
  problem.value = null;
  try {
    jobs.value = await call('jobs', {});
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

async function create(): Promise<void> {
  if (name.value.trim() === '') return;
  try {
    const job = await call('makeJob', {}, { name: name.value.trim() });
    await router.push({ name: 'intake', params: { job: job.id } });
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

/** The job that was taken away last. */
const taken = ref<Job | null>(null);

async function takeAway(job: Job): Promise<void> {
  try {
    await call('removeJob', { job: job.id });
    taken.value = job;
    await load();
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

async function putBack(): Promise<void> {
  await call('restoreJob', { job: taken.value?.id ?? '' });
  await load();
}

const day = (iso: string): string =>
  new Date(iso).toLocaleDateString(locale, { day: 'numeric', month: 'long', year: 'numeric' });

onMounted(load);
</script>

<template>
  <div class="page">
    <h1>{{ say('jobs') }}</h1>
    <form class="new" @submit.prevent="create">
      <el-input
        v-model="name"
        :placeholder="say('jobs.newName')"
        :aria-label="say('jobs.newName')"
        maxlength="120"
      />
      <el-button type="primary" native-type="submit" :disabled="name.trim() === ''">{{
        say('jobs.make')
      }}</el-button>
    </form>
    <TakenAway v-if="taken" :key="taken.id" :name="taken.name" :put-back="putBack" @close="taken = null" />
    <div v-if="problem" class="problem" role="alert">
      <p>{{ problem }}</p>
      <el-button size="small" @click="load">{{ say('act.tryAgain') }}</el-button>
    </div>
    <p v-else-if="jobs === null" class="soft">{{ say('jobs.loading') }}</p>
    <p v-else-if="jobs.length === 0" class="soft">
      {{ say('jobs.none') }}
    </p>
    <ul v-else>
      <li v-for="job in jobs" :key="job.id">
        <router-link :to="{ name: 'intake', params: { job: job.id } }">
          <strong>{{ job.name }}</strong>
          <span class="soft">{{ sayCount('count.picture', job.pictures) }}</span>
          <span class="soft">{{ day(job.createdAt) }}</span>
        </router-link>
        <el-button
          size="small"
          text
          :aria-label="say('jobs.takeAwayNamed', { name: job.name })"
          @click="takeAway(job)"
          >{{ say('jobs.takeAway') }}</el-button
        >
      </li>
    </ul>
    <p class="ways">
      <router-link :to="{ name: 'bin' }">{{ say('bin') }}</router-link>
      <router-link :to="{ name: 'behind' }">{{ say('behind') }}</router-link>
    </p>
    <label class="language">
      <span class="soft">{{ say('language') }}</span>
      <el-select
        :model-value="words.language"
        size="small"
        :aria-label="say('language')"
        data-testid="language"
        @change="takeLanguage"
      >
        <el-option v-for="(label, tag) in LANGUAGE_NAMES" :key="tag" :value="tag" :label="label" />
      </el-select>
    </label>
  </div>
</template>

<style scoped src="../listPage.css"></style>

<style scoped>
.ways {
  display: flex;
  gap: 20px;
  margin-top: 18px;
}
.language {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-top: 24px;
}
.language .el-select {
  width: 130px;
}
.page {
  max-width: 760px;
}
.new {
  display: flex;
  gap: 8px;
  margin: 16px 0 22px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  border: 1px solid var(--line);
  border-bottom-width: 0;
  background: var(--raised);
}
li a {
  display: grid;
  grid-template-columns: 1fr 110px 170px;
  gap: 12px;
  padding: 13px 16px;
  color: inherit;
  text-decoration: none;
}
li > .el-button {
  margin-right: 8px;
}
li:last-child {
  border-bottom-width: 1px;
}
li a:hover {
  background: #fafafa;
  box-shadow: inset 3px 0 var(--chosen);
}
li span {
  text-align: right;
}
</style>
