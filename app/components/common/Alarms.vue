<script setup lang="ts">
const alarms = useAlarms()
const session = useSession()
const top = computed(() => alarms.open[0] ?? null)
const zone = computed(() => session.branch?.timezone ?? 'UTC')
</script>

<template>
  <div v-if="top" class="alarm" role="alertdialog" aria-modal="true" aria-labelledby="alarm-title" data-testid="alarm">
    <div class="inner">
      <p class="kicker">{{ clockTime(top.at, zone) }} · stop work</p>
      <h2 id="alarm-title">Hands off. {{ top.who }} {{ top.what }}</h2>
      <p>Your proof no longer counts. Step back, tell your crew, open and tag again, prove again.</p>
      <UButton variant="solid" color="primary" size="xl" autofocus @click="alarms.dismiss(top.id)">I have stopped</UButton>
    </div>
  </div>
</template>

<style scoped>
.alarm {
  position: fixed;
  inset: 0;
  z-index: 100;
  background: #8f1d17;
  color: #fffdf8;
  display: grid;
  place-items: center;
  padding: 24px;
  border: 14px solid #fffdf8;
  outline: 14px solid #8f1d17;
  outline-offset: -28px;
}
.inner {
  max-width: 560px;
  display: grid;
  gap: 16px;
}
.inner .kicker {
  color: #fffdf8;
}
h2 {
  font-size: 34px;
  line-height: 1.15;
  font-weight: 700;
}
.inner :deep(button) {
  background: #fffdf8;
  color: #1d2421;
  min-height: 64px;
  font-size: 19px;
}
</style>
