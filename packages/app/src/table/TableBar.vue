<script setup lang="ts">
import { computed } from 'vue';
import { usePicture } from '../stores/picture.ts';
import type { Marks } from '../stores/view.ts';
import { MARK_CHOICES, useView } from '../stores/view.ts';

defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: []; whole: []; closer: []; farther: [] }>();

/** The methods in the order of their keys. */
const METHODS = [
  {
    method: 'recover',
    name: 'Recover',
    content: 'Recover: undo a shadow or a lit veil and keep the detail under it (W)',
  },
  { method: 'heal', name: 'Heal', content: 'Heal: texture from a source, tone from around (E)' },
] as const;

const view = useView();
const picture = usePicture();
const marks = computed({
  get: () => view.marks,
  set: (marks: Marks) => {
    view.marks = marks;
  },
});
const size = computed({
  get: () => Math.round(view.markRadius * 10) / 10,
  set: (radius: number) => {
    view.markRadius = radius;
  },
});
const nextUndo = computed(() => picture.done.at(-1)?.words);
const nextRedo = computed(() => picture.undone[0]?.words);
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Table">
    <div class="group">
      <el-tooltip v-for="{ method, name, content } in METHODS" :key="method" :content="content">
        <el-button
          size="small"
          :type="view.method === method ? 'primary' : 'default'"
          :aria-pressed="view.method === method"
          @click="view.arm(method)"
          >{{ name }}</el-button
        >
      </el-tooltip>
      <label v-if="view.method !== null" class="size">
        <span>Size</span>
        <el-input-number
          v-model="size"
          size="small"
          :min="1"
          :max="400"
          :step="1"
          :controls="false"
          aria-label="Radius of the mark in pixels"
        />
        <span class="soft">px</span>
      </label>
    </div>
    <div class="group">
      <el-tooltip :content="nextUndo ? `Undo: ${nextUndo} (Ctrl Z)` : 'Nothing to undo'">
        <el-button size="small" :disabled="!nextUndo" @click="picture.undo()">Undo</el-button>
      </el-tooltip>
      <el-tooltip :content="nextRedo ? `Redo: ${nextRedo} (Ctrl Shift Z)` : 'Nothing to redo'">
        <el-button size="small" :disabled="!nextRedo" @click="picture.redo()">Redo</el-button>
      </el-tooltip>
    </div>
    <div class="group">
      <el-tooltip content="Show the original while held (X)">
        <el-button
          size="small"
          @pointerdown="view.isOriginalHeld = true"
          @pointerup="view.isOriginalHeld = false"
          @pointerleave="view.isOriginalHeld = false"
          >Original</el-button
        >
      </el-tooltip>
      <el-tooltip content="Before on the left, after on the right (Q)">
        <el-button
          size="small"
          :type="view.isSplit ? 'primary' : 'default'"
          :aria-pressed="view.isSplit"
          @click="view.isSplit = !view.isSplit"
          >Split</el-button
        >
      </el-tooltip>
    </div>
    <div class="group right">
      <label class="size">
        <span>Marks</span>
        <el-select v-model="marks" size="small" style="width: 92px" aria-label="Which marks are shown (V)">
          <el-option v-for="choice in MARK_CHOICES" :key="choice" :value="choice" :label="choice" />
        </el-select>
      </label>
      <el-tooltip content="Farther (−)">
        <el-button size="small" aria-label="Farther" @click="emit('farther')">−</el-button>
      </el-tooltip>
      <span class="figures zoom" data-testid="zoom">{{ (scale * 100).toFixed(scale < 0.1 ? 1 : 0) }} %</span>
      <el-tooltip content="Closer (+)">
        <el-button size="small" aria-label="Closer" @click="emit('closer')">+</el-button>
      </el-tooltip>
      <el-tooltip content="Whole picture">
        <el-button size="small" @click="emit('whole')">Whole</el-button>
      </el-tooltip>
      <el-tooltip content="Whole picture or 1:1 at the pointer (F)">
        <el-button size="small" @click="emit('fit')">1:1</el-button>
      </el-tooltip>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 38px;
  padding: 0 10px;
  overflow-x: auto;
  overflow-y: hidden;
  border-bottom: 1px solid var(--line);
  background: var(--panel);
}
.group {
  display: flex;
  flex: none;
  align-items: center;
  gap: 5px;
}
.group .el-button + .el-button {
  margin-left: 0;
}
.right {
  margin-left: auto;
}
.size {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
}
.size .el-input-number {
  width: 64px;
}
.zoom {
  width: 58px;
  text-align: right;
}
</style>
