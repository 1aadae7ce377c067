<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import type { Delivery, DeliveryRequest, TakenBack } from '@fennip/contract';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import { bringBack } from '../../api/upload.ts';
import { usePicture } from '../../stores/picture.ts';
import { useView } from '../../stores/view.ts';
import { percent } from '../../i18n/figures.ts';
import { say, sayCount } from '../../i18n/say.ts';

/** The picture goes to another program at full depth with its mends, and comes back as a step of its history. */
const emit = defineEmits<{ ordered: [delivery: Delivery] }>();
const picture = usePicture();
const view = useView();
const file = ref<HTMLInputElement | null>(null);
const share = ref<number | null>(null);
const problem = ref<string | null>(null);
const came = ref<TakenBack | null>(null);

const covered = computed(() =>
  picture.entries.filter(({ mend }) => mend && came.value?.covered.includes(mend.id)),
);
const line = computed(() => {
  if (!came.value) return null;
  const changed = say('trip.came', { share: percent(came.value.share) });
  const numbers = covered.value.map(({ number }) => number).join(', ');
  return covered.value.length === 0
    ? changed
    : `${changed} ${sayCount('trip.covered', covered.value.length, { numbers })}`;
});

async function send(): Promise<void> {
  const sheet = picture.picture;
  if (!sheet) return;
  problem.value = null;
  const request: DeliveryRequest = {
    ...{ format: 'tiff', quality: 100, depth: sheet.depth === 16 ? 16 : 8, isUnfinished: true },
  };
  try {
    emit('ordered', await call('deliver', { picture: sheet.id }, request));
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

async function bring(): Promise<void> {
  const [chosen] = file.value?.files ?? [];
  const id = picture.picture?.id;
  if (!chosen || !id) return;
  problem.value = null;
  came.value = null;
  share.value = 0;
  try {
    came.value = await picture.haveEdited(() => bringBack(id, chosen, (done) => (share.value = done)));
    view.choose(covered.value.map((entry) => entry.id));
  } catch (error) {
    problem.value = sentenceOf(error);
  } finally {
    share.value = null;
    // The same file may be brought again.
    if (file.value) file.value.value = '';
  }
}
</script>

<template>
  <p class="soft">{{ say('trip.does') }}</p>
  <p class="act">
    <el-button size="small" @click="send">{{ say('trip.send') }}</el-button>
    <el-button size="small" :loading="share !== null" @click="file?.click()">{{
      say('trip.bring')
    }}</el-button>
    <input
      ref="file"
      type="file"
      accept="image/tiff,image/png,image/jpeg,image/webp"
      class="for-readers-only"
      tabindex="-1"
      :aria-label="say('trip.file')"
      data-testid="bring-back"
      @change="bring"
    />
  </p>
  <el-progress v-if="share !== null" :percentage="Math.round(share * 100)" :stroke-width="6" />
  <p v-if="line" role="status" data-testid="came-back">{{ line }}</p>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.act {
  display: flex;
  gap: 8px;
}
.act .el-button {
  margin: 0;
}
.problem {
  color: var(--open);
}
</style>
