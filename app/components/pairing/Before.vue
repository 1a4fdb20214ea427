<script setup lang="ts">
import { declinables, declinableWords } from '../../../core/automation/words'
import { accountOwners, accountOwnerWords, pairingOf, pairingSchoolWords } from '../../../core/job'

/** What is settled before the first window opens: whose account, which home, which network, what the household allows. */
const { job, site, settings, onCrew, submitJob } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()
const known = computed(() => pairingOf(job.value!).accounts)
const editing = ref(false)
const network = useHomeNetwork()
const blank = () => ({
  owner: 'customer' as (typeof accountOwners)[number],
  home: '',
  remote: false,
  declined: [] as (typeof declinables)[number][],
})
const form = ref(blank())
function edit() {
  const { owner, home, remote, declined } = known.value ?? { ...blank(), declined: job.value!.automation?.habits?.declined ?? [] }
  form.value = { owner, home, remote, declined: [...declined] }
  if (known.value) network.value = known.value.network
  editing.value = true
}
const owners = accountOwners.map((value) => ({ value, label: accountOwnerWords[value] }))
const permissions = declinables.map((value) => ({ value, label: declinableWords[value] }))
const hubs = computed(() => Object.values(site.value!.networks).filter(({ kind }) => kind === 'hub'))
const wantsHub = computed(() => Object.values(job.value!.units).some(({ model, removedAt }) => !removedAt && model.needsHub))
async function keep() {
  if (await run(() => submitJob({ type: 'noteAccounts', ...form.value, network: network.value.trim() }))) editing.value = false
}
</script>

<template>
  <section class="stack" data-testid="before-pairing">
    <h2 class="kicker">Before the first window</h2>
    <p class="small">{{ pairingSchoolWords[settings.pairingSchool] }}</p>
    <p v-if="wantsHub && !hubs.length" class="note amber small">
      The hub first: none is on this home’s record. It is plugged in, on the router and added before what belongs to it.
    </p>
    <template v-if="!editing">
      <p v-if="known" class="small">
        Into {{ accountOwnerWords[known.owner] }} account, home “{{ known.home }}”{{ known.network ? `, phone on ${known.network}` : '' }}.
        Control from outside {{ known.remote ? 'tried' : 'not tried' }}.
        <template v-if="known.declined.length">
          Not allowed: {{ known.declined.map((one) => declinableWords[one]).join(', ') }}; what rests on it will not run.
        </template>
        <b v-if="known.owner === 'crew'" class="warn"> Nothing is handed over that stands in the crew’s account.</b>
      </p>
      <p v-else class="soft small">
        Whose account, which home, which network the phone is on, what the household allows: nobody has said yet.
      </p>
      <UButton v-if="onCrew || session.isOffice" class="self-start" @click="edit">{{ known ? 'Change' : 'Settle it' }}</UButton>
    </template>
    <form v-else class="stack" @submit.prevent="keep">
      <UFormField label="Whose account"
        ><CommonToggles spoken="Whose account" :items="owners" :chosen="form.owner" @choose="form.owner = $event"
      /></UFormField>
      <UFormField label="Home that is selected in the app"><UInput v-model="form.home" maxlength="60" class="w-full" /></UFormField>
      <UFormField label="Network the phone is on" help="In the phone’s settings, under its wireless networks: the one with the tick."
        ><UInput v-model="network" maxlength="64" class="w-full"
      /></UFormField>
      <UCheckbox v-model="form.remote" label="Control from outside was tried, with the phone off the home’s network" />
      <UFormField label="The household does not allow"
        ><CommonToggles
          spoken="The household does not allow"
          :items="permissions"
          :chosen="form.declined"
          @choose="form.declined = toggled(form.declined, $event)"
      /></UFormField>
      <div class="row">
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!form.home.trim()">Keep it</UButton>
        <UButton variant="link" @click="editing = false">not</UButton>
      </div>
    </form>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
