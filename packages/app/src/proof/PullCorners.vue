<script setup lang="ts">
import type { Mend } from '@fennip/core/mend';
import type { Shift } from '@fennip/core/source';
import { ref } from 'vue';
import { withCornerPulled } from '../gestures/changeTarget.ts';
import { say } from '../i18n/say.ts';

/** Pulls the corners of a copied piece by keys, as the hand does on the picture with Alt. */
const props = defineProps<{ mend: Mend | null; isUsable: boolean }>();
const emit = defineEmits<{ change: [next: Mend] }>();
const isOpen = ref(false);

/** As they lie on the picture, two beside each other; the piece counts them clockwise. */
const CORNERS = [
  { name: 'upperLeft', number: 0 },
  { name: 'upperRight', number: 1 },
  { name: 'lowerLeft', number: 3 },
  { name: 'lowerRight', number: 2 },
] as const;

/** Pixels that an arrow pulls by, alone and with Shift. */
const STEP = { fine: 1, wide: 10 };
const WAYS: Readonly<Record<string, Shift>> = {
  ArrowLeft: { dx: -1, dy: 0 },
  ArrowRight: { dx: 1, dy: 0 },
  ArrowUp: { dx: 0, dy: -1 },
  ArrowDown: { dx: 0, dy: 1 },
};

function pull(corner: number, event: KeyboardEvent): void {
  const way = WAYS[event.key];
  if (!way || !props.mend) return;
  // The table's own arrows go from fault to fault.
  event.preventDefault();
  event.stopPropagation();
  const by = event.shiftKey ? STEP.wide : STEP.fine;
  emit('change', withCornerPulled(props.mend, corner, { dx: by * way.dx, dy: by * way.dy }));
}
</script>

<template>
  <el-popover v-model:visible="isOpen" :persistent="false" trigger="click" placement="top" :width="230">
    <template #reference>
      <el-button v-show="mend" size="small" :disabled="!isUsable">{{ say('proof.corners') }}</el-button>
    </template>
    <p class="does">{{ say('proof.corners.does') }}</p>
    <!-- Going out of here lets go of nothing else. -->
    <div
      class="corners"
      role="group"
      :aria-label="say('proof.corners.does')"
      @keydown.esc.stop="isOpen = false"
    >
      <el-button
        v-for="{ name, number } in CORNERS"
        :key="name"
        size="small"
        :disabled="!isUsable"
        @keydown="pull(number, $event)"
        >{{ say(`proof.corner.${name}`) }}</el-button
      >
    </div>
  </el-popover>
</template>

<style scoped>
.does {
  margin: 0 0 6px;
  line-height: 1.25;
}
.corners {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}
.corners .el-button {
  margin: 0;
}
</style>
