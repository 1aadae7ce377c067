<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import type { UploadRequestOptions } from 'element-plus';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../../api/call.ts';
import TakenAway from '../../controls/TakenAway.vue';
import ContactPrint from '../../head/ContactPrint.vue';
import type { CameBack } from '../../stores/job.ts';
import { useJob } from '../../stores/job.ts';
import { percent } from '../../i18n/figures.ts';
import { useSession } from '../../stores/session.ts';
import JobLearning from './JobLearning.vue';
import JobReaders from './JobReaders.vue';
import JoinPieces from './JoinPieces.vue';
import OtherPages from './OtherPages.vue';
import { say, sayCount } from '../../i18n/say.ts';

const job = useJob();
const session = useSession();
const router = useRouter();
const notice = ref<string | null>(null);

/** The list of files is ours; the upload control only gathers them. */
function take({ file }: UploadRequestOptions): XMLHttpRequest | Promise<unknown> {
  job.add([file]);
  return Promise.resolve();
}

function open(pictureId: string, stage: 'examine' | 'mend'): void {
  void router.push({ name: 'picture', params: { job: job.job?.id ?? '', picture: pictureId, stage } });
}

/** What a file that came back by its name did. */
const cameBack = ({ pictureName, share, covered }: CameBack): string =>
  [
    say('intake.cameBack', {
      name: pictureName,
      share: share < 0.01 ? say('figure.underOne') : percent(share),
    }),
    ...(covered.length === 0 ? [] : [sayCount('intake.covered', covered.length)]),
  ].join(' ');

/** The picture that was taken out last. */
const taken = ref<{ readonly id: string; readonly name: string } | null>(null);

async function takeOut({ id, name }: { readonly id: string; readonly name: string }): Promise<void> {
  notice.value = null;
  try {
    await call('removePicture', { picture: id });
    taken.value = { id, name };
  } catch (error) {
    notice.value = sentenceOf(error);
  }
}
</script>

<template>
  <div class="page">
    <p v-if="job.problem" class="problem" role="alert">{{ job.problem }}</p>
    <template v-else-if="job.job">
      <el-upload
        drag
        multiple
        :show-file-list="false"
        :http-request="take"
        accept="image/jpeg,image/png,image/tiff,image/webp,.jpg,.jpeg,.png,.tif,.tiff,.webp"
        class="drop"
      >
        <p>
          <strong>{{ say('intake.drop') }}</strong>{{ say('intake.orChoose') }}
        </p>
        <p class="soft">
          {{ say('intake.formats') }}
        </p>
      </el-upload>
      <ul v-if="job.uploads.length > 0" class="uploads" :aria-label="say('intake.onTheirWay')">
        <li v-for="upload in job.uploads" :key="upload.id" :class="{ refused: upload.problem !== null }">
          <span class="file">{{ upload.name }}</span>
          <template v-if="upload.problem !== null">
            <span role="alert">{{ upload.problem }}</span>
            <el-button size="small" @click="job.forgetUpload(upload.id)">{{ say('act.close') }}</el-button>
          </template>
          <template v-else-if="upload.back">
            <span role="status">{{ cameBack(upload.back) }}</span>
            <span class="after">
              <el-button size="small" @click="open(upload.back.pictureId, 'mend')">{{
                say('intake.lookAt', { name: upload.back.pictureName })
              }}</el-button>
              <el-button size="small" @click="job.forgetUpload(upload.id)">{{ say('act.close') }}</el-button>
            </span>
          </template>
          <span v-else-if="upload.share === 1" role="status">{{ say('intake.reading') }}</span>
          <el-progress v-else :percentage="Math.round(upload.share * 100)" :stroke-width="6" />
        </li>
      </ul>
      <p v-if="notice" class="problem" role="alert">{{ notice }}</p>
      <TakenAway
        v-if="taken"
        :key="taken.id"
        :name="taken.name"
        :put-back="() => call('restorePicture', { picture: taken?.id ?? '' })"
        @close="taken = null"
      />
      <p v-if="job.pictures.length === 0 && job.uploads.length === 0" class="soft empty">
        {{ say('intake.none') }}
      </p>
      <nav v-if="job.pictures.length > 0 || session.person" class="ways" :aria-label="say('intake.ways')">
        <template v-if="job.pictures.length > 0">
          <router-link :to="{ name: 'work', params: { job: job.job.id } }">{{
            say('work.link')
          }}</router-link>
          <router-link :to="{ name: 'series', params: { job: job.job.id } }">{{
            say('series.link')
          }}</router-link>
        </template>
        <JobReaders v-if="session.person" :key="job.job.id" :job="job.job.id" />
        <JobLearning :key="`learning ${job.job.id}`" :job="job.job.id" />
      </nav>
      <section v-if="job.pictures.length > 0" class="sheet" :aria-label="say('sheet')">
        <div v-for="picture in job.pictures" :key="picture.id" class="place">
          <button
            type="button"
            class="print"
            :disabled="picture.state === 'failed'"
            :data-picture="picture.name"
            @click="open(picture.id, 'examine')"
          >
            <ContactPrint :picture="picture" />
          </button>
          <el-button
            size="small"
            text
            class="out"
            :aria-label="say('intake.takeOutNamed', { name: picture.name })"
            @click="takeOut(picture)"
            >{{ say('intake.takeOut') }}</el-button
          >
          <OtherPages v-if="picture.pages > 1" :picture="picture" />
          <JoinPieces v-if="picture.nature === 'print' && picture.state === 'ready'" :picture="picture" />
        </div>
      </section>
    </template>
    <p v-else class="soft empty">{{ say('intake.opening') }}</p>
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  padding: 20px 24px;
  overflow: auto;
}
.drop :deep(.el-upload-dragger) {
  padding: 18px;
  border-color: var(--line-strong);
  background: var(--panel);
}
.uploads {
  margin: 14px 0 0;
  padding: 0;
  list-style: none;
}
.uploads li {
  display: grid;
  grid-template-columns: 240px 1fr auto;
  align-items: center;
  gap: 14px;
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
  background: var(--raised);
}
.after {
  display: flex;
  gap: 8px;
}
.after .el-button {
  margin: 0;
}
.uploads .refused {
  box-shadow: inset 4px 0 var(--open);
}
.file {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.problem {
  margin: 14px 0 0;
  padding: 12px 16px;
  border-left: 4px solid var(--open);
  background: var(--raised);
}
.empty {
  padding: 20px 2px;
}
.ways {
  display: flex;
  gap: 22px;
  margin-top: 14px;
}
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  padding: 18px 0;
}
.place {
  position: relative;
}
.print {
  display: block;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.print:disabled {
  cursor: default;
}
.out {
  margin: 2px 0 0 2px;
}
</style>
