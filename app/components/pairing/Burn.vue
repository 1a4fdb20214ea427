<script setup lang="ts">
import type { PairingWindow } from '../../../core/commission/pairing'

/** A window as a strip that burns down from its right end. */
const props = defineProps<{ window: PairingWindow; now: number; tall?: boolean }>()
const said = computed(() => windowSaid(props.window, props.now))
</script>

<template>
  <div class="burn" :class="[said.tone, { tall }]">
    <div v-if="said.left !== null" class="wick"><i :style="{ width: `${Math.max(0, Math.min(1, said.left)) * 100}%` }" /></div>
    <span class="mono">{{ said.words }}</span>
  </div>
</template>

<style scoped>
.burn {
  display: grid;
  gap: 2px;
  font-size: 14px;
}
.wick {
  height: 8px;
  border-bottom: 1.5px solid var(--ink);
}
.wick i {
  display: block;
  height: 100%;
  background: var(--copper-bar);
}
.tall .wick {
  height: 22px;
}
.tall span {
  font-size: 20px;
  font-weight: 640;
}
.soon span,
.over span {
  color: var(--bad);
}
.soon i {
  background: var(--bad);
}
</style>
