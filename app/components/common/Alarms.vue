<script setup lang="ts">
import { alarmWords } from '~/stores/alarms'

const alarms = useAlarms()
const session = useSession()
const { t } = useTrade()
const top = computed(() => alarms.open[0] ?? null)
const more = computed(() => alarms.open.filter((alarm) => alarm.siteId === top.value?.siteId).length - 1)
const region = computed(() => session.region)
const busy = ref(false)
async function stopped() {
  busy.value = true
  await alarms.stopped(top.value!.siteId)
  busy.value = false
}
</script>

<template>
  <div v-if="top" class="alarm" role="alertdialog" aria-modal="true" aria-labelledby="alarm-title" data-testid="alarm">
    <div class="inner">
      <p class="kicker">{{ clockTime(top.at, region) }} · stop work{{ top.siteName ? ` · ${top.siteName}` : '' }}</p>
      <h2 id="alarm-title">Hands off. {{ top.by }} {{ t(alarmWords[top.what] ?? 'changed something you rely on.') }}</h2>
      <p v-if="top.place" class="place">{{ top.place }}</p>
      <p v-if="top.what === 'workStopped'">
        Step back, hands out, say it out loud. Somebody may be hurt: go and see. Nothing is touched or closed until {{ top.by }} or a lead
        restarts work.
      </p>
      <p v-else>Step back, tell your crew. Look at the power before anything else, and prove again before you touch.</p>
      <p v-if="more > 0">{{ more }} more {{ more === 1 ? 'alarm' : 'alarms' }} at this home. One answer is for all of them.</p>
      <UButton variant="solid" color="primary" size="xl" autofocus :loading="busy" @click="stopped">I have stopped</UButton>
      <p v-if="alarms.refusal" role="status">{{ alarms.refusal }}</p>
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
.place {
  font-size: 21px;
  font-weight: 640;
}
.inner :deep(button) {
  background: #fffdf8;
  color: #1d2421;
  min-height: 64px;
  font-size: 19px;
}
</style>
