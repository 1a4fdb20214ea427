<script setup lang="ts">
import { linkOf, meteredPoint, moves, pointsLinked, serialSaid, type Unit } from '../../../core/job'
import type { LinkDoing } from '../../../core/link'

/** What the link can do at this device, and what came of it last. */
const props = defineProps<{ unit: Unit; doings: readonly LinkDoing[] }>()
const { job } = injectJobRecord()
const { t } = useTrade()
const { link, busy, problem, newestOf, isAt, ask } = useJobLink()
const words: Record<LinkDoing, { button: string; going: string }> = {
  join: { button: 'Join it over the link', going: 'The link looks for it. Give it half a minute.' },
  check: { button: 'Test it over the link', going: 'The link tries it: it goes on and off by itself.' },
  wall: { button: 'Hear the wall', going: 'Press it at the wall now: the link listens for twenty seconds.' },
  trace: { button: 'Read its meter for two minutes', going: 'The link reads its meter every three seconds, for two minutes. Let it run.' },
  name: { button: 'Write its name into it', going: 'The link writes the name and reads it again.' },
  open: { button: 'Open it for the household', going: 'The link opens it.' },
  homes: { button: 'Ask who is on it', going: 'The link asks it who is on it.' },
  leave: { button: 'Take the installer off', going: 'The link takes the installer off it.' },
}
const linked = computed(() => linkOf(job.value!).units[props.unit.id])
const speaks = computed(() => props.unit.model.setupCode === 'openHome' && (linked.value || props.unit.code.kind !== 'none'))
/** What it may do just now: a device is joined first, and once. */
const may = computed(() =>
  props.doings.filter((doing) =>
    doing === 'join'
      ? // A laptop that lost its keys joins anew.
        !linked.value || linkOf(job.value!).faults[props.unit.id]?.fault === 'notLinked'
      : doing === 'name'
        ? linked.value && props.unit.name && linked.value.label?.kept !== props.unit.name
        : doing === 'trace'
          ? linked.value && meteredPoint(job.value!, props.unit)
          : doing === 'check' || doing === 'wall'
            ? linked.value && pointsLinked(job.value!, props.unit).length
            : linked.value,
  ),
)
const serial = computed(() => serialSaid(job.value!, props.unit))
/** What came of it last, where nothing else was done since: “the installer is off” is no news of a device that was joined again. */
const last = computed(() => {
  const newest = newestOf(props.unit.id)
  return newest && props.doings.includes(newest.doing) ? newest : null
})
const going = computed(() => isAt(props.unit.id))
/** Somebody says first that everybody is clear. */
const asksClear = computed(() => moves(job.value!, props.unit))
const sure = ref(false)
/** The household’s app has it already: that app shows a code for one more home. */
const code = ref('')
const asksCode = computed(() => may.value.includes('join') && props.unit.pairing?.result === 'joined' && !linked.value)
/** A window that is open, and for how long still. */
const { now } = useNow()
const opened = computed(() => {
  const window = last.value?.opened
  const left = window ? Date.parse(window.until) - now.value : 0
  return window && left > 0 ? { ...window, minutes: Math.ceil(left / 60_000) } : null
})
async function press(doing: LinkDoing) {
  const clear = sure.value
  if (doing === 'check' && asksClear.value && !clear) {
    sure.value = true
    return
  }
  sure.value = false
  await ask(props.unit.id, doing, { clear, code: doing === 'join' ? code.value.trim() : '' })
  code.value = ''
}
</script>

<template>
  <div v-if="link && speaks && (may.length || last)" class="stack" :data-testid="`link-${unit.serial}`">
    <div v-if="may.length" class="row wrap">
      <UButton v-for="doing in may" :key="doing" :loading="busy || going" :disabled="!link.online" @click="press(doing)">{{
        words[doing].button
      }}</UButton>
      <span v-if="!link.online" class="warn small">{{ link.name }} is not heard of. Start the link in the network of this home.</span>
    </div>
    <details v-if="asksCode" class="small">
      <summary>An app has it already?</summary>
      <UFormField
        :name="`code-${unit.serial}`"
        label="Code of its app"
        help="In that app, open it for one more home or app. Type the code that it shows, then join it."
        class="mt-2"
        ><UInput v-model="code" class="mono" autocomplete="off"
      /></UFormField>
    </details>
    <div v-if="sure" class="note amber stack" role="alert">
      <p>{{ t('It starts and stops by itself. Nobody has hands, hair or a ladder at it, and whoever is near knows?') }}</p>
      <div class="row wrap">
        <UButton variant="solid" @click="press('check')">Everybody is clear: test it</UButton
        ><UButton @click="sure = false">Not now</UButton>
      </div>
    </div>
    <p v-if="last && (last.state === 'waiting' || last.state === 'taken')" class="small" role="status">{{ words[last.doing].going }}</p>
    <p v-else-if="last" class="small" :class="last.state === 'done' ? 'good' : 'warn'" role="status">{{ last.said }}</p>
    <div v-if="opened" class="stack" data-testid="opened">
      <PairingSquare :square="opened.square" :typed="opened.code" />
      <p class="small">
        Scanned in the household’s own app, it joins their home. This code is worth nothing in {{ counted(opened.minutes, 'minute') }}; the
        one on the device stays as it is.
      </p>
    </div>
    <p v-if="serial?.of" class="note red small" role="alert">
      It says that its serial is {{ serial.says }}: that of {{ serial.of.name || serial.of.serial }} on record. Cards or devices were
      swapped: what is tested here is the other one.
    </p>
    <p v-else-if="serial" class="warn small">It says that its serial is {{ serial.says }}. Look at the device and the card again.</p>
    <p v-if="linked?.label && linked.label.kept !== unit.name" class="small warn">In the device it is called “{{ linked.label.kept }}”.</p>
    <CommonProblem :problem="problem" />
  </div>
</template>
