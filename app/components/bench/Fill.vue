<script setup lang="ts">
import { connectorBodies, freeLengthRemark, reportBox } from '../../../core/fit'
import type { BoxState } from '../../../core/site'

const props = defineProps<{ box: BoxState }>()
const { job, site, scheme, settings } = injectJobRecord()
const { t, number } = useTrade()
const session = useSession()
const devices = computed(() => Object.values(job.value?.boxes[props.box.id]?.devices ?? {}).map((device) => device.model))
const report = computed(() =>
  reportBox(
    props.box,
    devices.value,
    scheme.value.id,
    settings.value.necEdition,
    site.value?.surveys[props.box.id],
    connectorBodies(session.parts, scheme.value.id),
  ),
)
const short = computed(() => freeLengthRemark(scheme.value.id, site.value?.surveys[props.box.id]?.freeLengthMm))
const share = computed(() =>
  report.value.kind === 'volume' ? Math.min(100, (report.value.fill.totalIn3 / report.value.fill.volumeIn3) * 100) : 0,
)
</script>

<template>
  <details class="fill" data-testid="box-fill">
    <summary v-if="report.kind === 'volume'">
      <span :class="report.fill.fits ? '' : 'bad'"
        >Box fill {{ number(report.fill.totalIn3, 2) }} of {{ number(report.fill.volumeIn3) }} in³{{
          report.fill.fits ? '' : ': too full'
        }}</span
      >
      <span class="bar" aria-hidden="true"><i :class="{ over: !report.fill.fits }" :style="{ width: `${share}%` }" /></span>
    </summary>
    <summary v-else-if="report.kind === 'depth'" :class="{ bad: !report.fit.fits }">
      Depth {{ report.fit.deviceDepthMm }} of {{ report.fit.boxDepthMm }} mm: {{ t(report.fit.sentence) }}
    </summary>
    <summary v-else class="soft">Fit: {{ report.missing }}</summary>
    <template v-if="report.kind === 'volume'">
      <table class="plain">
        <tbody>
          <tr v-for="line in report.fill.lines" :key="line.what">
            <td>{{ t(line.what) }}</td>
            <td class="mono">{{ line.count }} × {{ number(line.eachIn3) }}</td>
            <td class="mono text-right">{{ number(line.totalIn3, 2) }}</td>
            <td class="soft">{{ line.rule }}</td>
          </tr>
          <tr>
            <td><b>Sum</b></td>
            <td />
            <td class="mono text-right">
              <b>{{ number(report.fill.totalIn3, 2) }} in³</b>
            </td>
            <td class="soft">NEC 314.16(B), {{ settings.necEdition }}</td>
          </tr>
        </tbody>
      </table>
      <p class="small soft mt-1">
        Real room left: {{ number(report.fill.realRoomIn3, 1) }} in³ after conductors, device bodies and connectors. Cut-back conductors
        keep their free length (NEC 300.14).<template v-if="report.fill.withModulesIn3">
          With the module’s body: {{ number(report.fill.withModulesIn3, 2) }} in³; the authority decides.</template
        >
      </p>
      <p v-if="report.assumed.length" class="small warn">{{ report.assumed.join(', ') }}: no gauge recorded, 12 AWG assumed.</p>
    </template>
    <p v-if="short" class="small warn">{{ short }}</p>
    <p v-if="report.kind === 'depth'" class="small soft">{{ report.note }}</p>
  </details>
</template>

<style scoped>
.fill {
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 8px 12px;
  background: var(--sheet);
  font-size: 14px;
}
summary {
  cursor: pointer;
  min-height: 28px;
}
.bar {
  display: inline-block;
  vertical-align: middle;
  width: 160px;
  height: 10px;
  background: var(--mute);
  border: 1px solid var(--soft);
  margin-left: 10px;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--petrol);
}
.bar i.over {
  background: repeating-linear-gradient(135deg, var(--live) 0 4px, var(--sheet) 4px 6px);
}
</style>
