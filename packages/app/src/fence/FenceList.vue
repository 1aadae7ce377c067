<script setup lang="ts">
import type { Fence } from '@fennip/core/fence';
import { ref } from 'vue';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import { useFencing } from '../actions/useFencing.ts';
import { say } from '../i18n/say.ts';
import FenceMore from './FenceMore.vue';

/** The picture's guards and zones. */
const fences = useFences();
const hand = useHand();
const { drawOn, rename, switchOn } = useFencing();
const naming = ref<string | null>(null);
const draftName = ref('');

function pick(fence: Fence): void {
  if (fences.currentId === fence.id && hand.tool === fence.kind) hand.layDown();
  else drawOn(fence);
}

function beginNaming(fence: Fence): void {
  naming.value = fence.id;
  draftName.value = fence.name;
}

function endNaming(fence: Fence): void {
  if (naming.value !== fence.id) return;
  naming.value = null;
  rename(fence, draftName.value);
}
</script>

<template>
  <section v-if="fences.list.length > 0" class="fences" :aria-label="say('fences')">
    <h3>{{ say('fences') }}</h3>
    <ul>
      <li v-for="fence in fences.list" :key="fence.id" :class="{ current: fence.id === fences.currentId }">
        <span class="letter" :class="fence.kind" aria-hidden="true">{{ fences.letterOf(fence) }}</span>
        <el-input
          v-if="naming === fence.id"
          v-model="draftName"
          size="small"
          autofocus
          :aria-label="say('fence.name')"
          @keydown.enter.stop="endNaming(fence)"
          @keydown.escape.stop="naming = null"
          @blur="endNaming(fence)"
        />
        <button
          v-else
          type="button"
          class="name"
          :class="{ off: !fence.on }"
          :title="say('fence.pick.does')"
          :aria-pressed="fence.id === fences.currentId"
          @click="pick(fence)"
          @dblclick="beginNaming(fence)"
        >
          {{ fence.name }} <span class="soft">{{ say(`fence.kind.${fence.kind}`) }}</span>
        </button>
        <el-switch
          :model-value="fence.on"
          size="small"
          :aria-label="say('fence.on', { name: fence.name })"
          @change="switchOn(fence, !fence.on)"
        />
        <FenceMore :fence="fence" @rename="beginNaming(fence)" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.fences {
  max-height: 150px;
  padding: 4px 0;
  overflow-y: auto;
  border-top: 1px solid var(--line);
}
h3 {
  margin: 0;
  padding: 0 12px;
  font-size: 13px;
  font-weight: 600;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 22px 1fr auto auto;
  align-items: center;
  gap: 6px;
  height: 28px;
  padding: 0 8px 0 10px;
}
li.current {
  background: var(--raised);
  box-shadow: inset 3px 0 0 var(--chosen);
}
.letter {
  width: 20px;
  border: 1px dashed var(--line-strong);
  font-family: var(--face-figures);
  font-size: 13px;
  text-align: center;
}
.letter.guard {
  border: 2px solid var(--text);
}
.name {
  padding: 0;
  overflow: hidden;
  border: 0;
  background: none;
  color: var(--text);
  font: inherit;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}
.name.off {
  color: var(--text-soft);
  text-decoration: line-through;
}
</style>
