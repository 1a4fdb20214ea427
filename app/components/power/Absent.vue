<script setup lang="ts">
import { minutesBetween } from '../../../core/site'

/** Somebody has gone and left a tag, a permission or an alarm: a lead says so, a second person confirms, and it ends. */
const props = defineProps<{ personId: string; name: string }>()
const { site, vantage, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const absence = computed(() => site.value!.absences[props.personId] ?? null)
const last = computed(() => site.value!.people[props.personId]?.lastAt ?? null)
const minutes = computed(() => (last.value ? Math.max(0, Math.round(minutesBetween(last.value, vantage.value.now))) : null))
const me = computed(() => session.viewer?.personId ?? '')
const reason = ref('')
const explained = ref('')
const verified = ref(false)
const signing = ref(false)
const signer = ref('')
const strokes = ref<[number, number][][]>([])
const declare = () =>
  run(() =>
    submitSite({
      type: 'declareAbsent',
      personId: props.personId,
      reason: reason.value,
      explained: explained.value,
      leftBuildingVerified: true,
    }),
  )
const confirm = () => run(() => submitSite({ type: 'confirmAbsent', personId: props.personId, household: null }))
const sign = () =>
  run(() =>
    submitSite({ type: 'confirmAbsent', personId: props.personId, household: { name: signer.value.trim(), strokes: strokes.value } }),
  )
</script>

<template>
  <div class="stack note red">
    <template v-if="!absence">
      <p>
        <b>{{ name }} is off site and cannot be reached?</b> Call them first. They must have left the building. Once a second person
        confirms, everything they left open ends: tags, permits, proofs, alarms. It stays in the history, and they are told when they come
        back.
      </p>
      <p class="small">
        The record has {{ site!.onSite[personId] ? 'them on site' : 'them off site'
        }}<template v-if="minutes !== null">; last heard {{ counted(minutes, 'minute') }} ago</template>.
      </p>
      <UCheckbox v-model="verified" label="I have verified that they left the building" />
      <UFormField label="How verified, and who tells them"><UTextarea v-model="reason" :rows="2" /></UFormField>
      <UFormField label="Why the record still has them here"><UTextarea v-model="explained" :rows="2" /></UFormField>
      <UButton color="error" :loading="busy" :disabled="offline || !verified || reason.trim().length < 10" @click="declare"
        >Declare {{ name }} off the site</UButton
      >
    </template>
    <template v-else>
      <p>
        <b>{{ absence.declaredBy.name }} says that {{ name }} is off the site:</b> {{ absence.reason }} A second person must confirm.
      </p>
      <UButton v-if="me !== absence.declaredBy.personId && me !== personId" color="error" variant="solid" :loading="busy" @click="confirm"
        >I confirm: {{ name }} has left</UButton
      >
      <template v-else-if="me === absence.declaredBy.personId">
        <p class="small">{{ t('A crew mate or the office confirms on their own device: it is shown to them here, at this {breaker}.') }}</p>
        <UButton variant="link" class="self-start" @click="signing = !signing"
          >nobody else in the company: somebody at the home signs</UButton
        >
        <form v-if="signing" class="stack" @submit.prevent="sign">
          <UFormField label="Name of the person signing"><UInput v-model="signer" autocomplete="off" /></UFormField>
          <p class="small">“I have seen that {{ name }} is not in the building.”</p>
          <CommonSignature @change="strokes = $event" />
          <UButton type="submit" color="error" :loading="busy" :disabled="!signer.trim() || !strokes.length">Signed</UButton>
        </form>
      </template>
      <UButton variant="link" :loading="busy" @click="run(() => submitSite({ type: 'withdrawAbsent', personId }))">withdraw</UButton>
    </template>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
