<script setup lang="ts">
import { computed } from 'vue';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import { say } from '../words/say.ts';

/** The zone that what is laid down next is bounded by. */
const hand = useHand();
const fences = useFences();
/** No fence has this id. */
const ALL = '*';
const zone = computed({
  get: () => (fences.zones.some(({ id }) => id === hand.zone) ? (hand.zone ?? ALL) : ALL),
  set: (id: string) => {
    hand.zone = id === ALL ? null : id;
  },
});
</script>

<template>
  <label class="bar-field">
    <span>{{ say('hand.in') }}</span>
    <el-select v-model="zone" size="small" style="width: 104px" :aria-label="say('hand.in.does')">
      <el-option :value="ALL" :label="say('treat.whole')" />
      <el-option
        v-for="fence in fences.zones"
        :key="fence.id"
        :value="fence.id"
        :label="`${fences.letterOf(fence)} ${fence.name}`"
      />
    </el-select>
  </label>
</template>
