<script setup lang="ts">
const session = useSession()
const parts = [
  { id: 'method', label: 'Method' },
  { id: 'people', label: 'People' },
  { id: 'testers', label: 'Testers' },
  { id: 'catalogue', label: 'Catalogue' },
  { id: 'prices', label: 'Prices' },
  { id: 'links', label: 'Links' },
  { id: 'erasing', label: 'Erasing', leads: true },
  { id: 'pin', label: 'My PIN' },
] as const
const shown = computed(() => parts.filter((one) => !('leads' in one) || session.hasRole('lead')))
const part = useRouteQueryPart()
function useRouteQueryPart() {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => shown.value.find((candidate) => candidate.id === route.query.part)?.id ?? 'method',
    set: (id) => void router.replace({ query: { part: id } }),
  })
}
const sentence = computed(
  () =>
    ({
      method: 'Where the schools of the trade differ, the branch decides.',
      people: `${counted(session.people.filter((person) => person.active).length, 'person', 'people')}, ${session.people.filter((person) => person.active && person.licensed).length} of them licensed.`,
      testers: `${counted(session.instruments.filter((instrument) => instrument.active).length, 'tester')} in the register.`,
      pin: 'Your PIN stands for you on a crew mate’s device.',
      erasing: 'Who does not want to be on record any more is erased, for good.',
      links: 'Laptops that reach the devices of a home.',
      prices: 'What a plan is summed up by: rates, taxes, and what each article costs.',
      catalogue: `${counted(session.catalogue.filter((model) => model.active).length, 'model')} on the vans.`,
    })[part.value],
)
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-4">{{ sentence }}</h1>
    <div class="row wrap mb-6" role="group" aria-label="Settings">
      <UButton
        v-for="entry in shown"
        :key="entry.id"
        :variant="part === entry.id ? 'solid' : 'outline'"
        :aria-pressed="part === entry.id"
        @click="part = entry.id"
        >{{ entry.label }}</UButton
      >
    </div>
    <template v-if="part === 'method'">
      <div class="methods">
        <SettingsMethod v-for="branch in session.branches" :key="branch.id" :branch="branch" /><SettingsNewBranch
          v-if="session.hasRole('lead')"
        />
      </div>
      <SettingsDurations v-if="session.isOffice" class="mt-8" />
      <SettingsBackup class="mt-8" />
    </template>
    <template v-else-if="part === 'people'"
      ><SettingsPeople /><template v-if="session.hasRole('lead')"><SettingsSecretReads /><SettingsAccessRecord /></template></template
    ><SettingsTesters v-else-if="part === 'testers'" /><SettingsPin v-else-if="part === 'pin'" />
    <template v-else-if="part === 'prices'">
      <div v-if="session.isOffice" class="methods">
        <SettingsMoney v-for="branch in session.branches" :key="branch.id" :branch="branch" />
      </div>
      <SettingsArticles v-if="session.isOffice" />
      <p v-else class="soft">Prices are the office’s.</p>
    </template>
    <SettingsLinks v-else-if="part === 'links'" /><SettingsErasing v-else-if="part === 'erasing'" />
    <SettingsCatalogue v-else />
  </div>
</template>

<style scoped>
/* Branches beside each other: what one does differently is seen at once. */
.methods > * {
  min-width: 0;
}
.methods {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 420px), 1fr));
  gap: 8px 40px;
}
</style>
