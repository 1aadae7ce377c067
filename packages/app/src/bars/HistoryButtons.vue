<script setup lang="ts">
import { computed, ref } from 'vue';
import HistoryList from '../history/HistoryList.vue';
import { usePicture } from '../stores/picture.ts';
import { say } from '../i18n/say.ts';

/** One step back or forward, and the list of all. */
const picture = usePicture();
const nextUndo = computed(() => picture.done.at(-1)?.words);
const nextRedo = computed(() => picture.undone[0]?.words);
/** Esc closes the list before it does anything else. */
const isOpen = ref(false);
</script>

<template>
  <div class="bar-group">
    <el-tooltip
      placement="top"
      :enterable="false"
      :content="nextUndo ? say('history.undoStep', { step: nextUndo }) : say('history.noUndo')"
    >
      <el-button size="small" :disabled="!nextUndo" @click="picture.undo()">{{
        say('history.undo')
      }}</el-button>
    </el-tooltip>
    <el-tooltip
      placement="top"
      :enterable="false"
      :content="nextRedo ? say('history.redoStep', { step: nextRedo }) : say('history.noRedo')"
    >
      <el-button size="small" :disabled="!nextRedo" @click="picture.redo()">{{
        say('history.redo')
      }}</el-button>
    </el-tooltip>
    <el-popover
      v-model:visible="isOpen"
      :persistent="false"
      trigger="click"
      :width="280"
      placement="bottom-start"
    >
      <template #reference>
        <el-button size="small" @keydown.esc.stop.prevent="isOpen = false">{{ say('history') }}</el-button>
      </template>
      <HistoryList />
    </el-popover>
  </div>
</template>
