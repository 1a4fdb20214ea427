<script setup lang="ts">
/** Laptops that reach devices in homes: a one-time code makes one, and the office ends it. */
const session = useSession()
const { answer, problem: unread } = useList('GET /api/links', () => ({}), ['links'])
const { busy, problem, give } = useGiving()
const name = ref('')
const fresh = ref<{ code: string; until: string } | null>(null)
const ending = ref<string | null>(null)
const mayMake = computed(() => session.hasRole('dispatcher', 'lead', 'technician'))
const mayEnd = computed(() => session.hasRole('dispatcher', 'lead'))
const links = computed(() => answer.value?.links ?? [])
const command = computed(() => `npm run link -- --office=${location.origin} --code=${fresh.value?.code ?? ''}`)
async function make() {
  const made = await give(() => api('POST /api/links', { body: { id: newId(), name: name.value.trim() } }))
  if (!made) return
  fresh.value = made
  name.value = ''
}
async function end(id: string, despiteHomes: boolean) {
  if (await give(() => api('POST /api/links/:id/end', { params: { id }, body: { despiteHomes } }))) ending.value = null
}
</script>

<template>
  <div class="stack">
    <p class="soft">
      A link is a laptop in the network of a home. It joins devices of the open home standard, tests them, writes their names, and is taken
      off again. It asks this server for work; nobody reaches into the home from outside.
    </p>
    <CommonProblem :problem="unread" />
    <ul class="ruled">
      <li v-for="link in links" :key="link.id" class="one" :data-testid="`link-${link.name}`">
        <span class="grow"
          ><b>{{ link.name }}</b>
          <span class="soft small block"
            >{{
              link.pairedAt
                ? `paired ${dayAndTime(link.pairedAt, session.region)}, code by ${link.madeBy}`
                : `waits for its code, by ${link.madeBy}`
            }}{{ link.holds.length ? `; holds the installer of ${link.holds.join(', ')}` : '' }}</span
          ></span
        >
        <span class="small" :class="link.online ? 'good' : 'soft'">{{
          link.online ? 'asks for work' : link.seenAt ? `last heard ${dayAndTime(link.seenAt, session.region)}` : 'not heard yet'
        }}</span>
        <UButton v-if="mayEnd && ending !== link.id" :aria-label="`End ${link.name}`" @click="ending = link.id">End it</UButton>
        <span v-if="ending === link.id" class="row wrap w-full">
          <span v-if="link.holds.length" class="warn"
            >It holds the installer of {{ counted(link.holds.length, 'home') }}. Without it each device there has to be reset to be rid of
            it.</span
          >
          <UButton color="error" :loading="busy" @click="end(link.id, link.holds.length > 0)">{{
            link.holds.length ? 'End it all the same' : 'End it'
          }}</UButton><UButton @click="ending = null">Keep it</UButton>
        </span>
      </li>
    </ul>
    <p v-if="answer && !links.length" class="soft">There is none yet.</p>
    <form v-if="mayMake" class="row wrap" @submit.prevent="make">
      <UFormField label="Name of the laptop"
        ><UInput v-model="name" maxlength="60" placeholder="Laptop of van 2" class="w-60"
      /></UFormField>
      <UButton type="submit" variant="solid" class="self-end" :loading="busy" :disabled="name.trim().length < 2">Make a code</UButton>
    </form>
    <div v-if="fresh" class="note stack" data-testid="link-code">
      <p>
        Code <b class="mono code">{{ fresh.code }}</b>, once, until {{ clockTime(fresh.until, session.region) }}. On the laptop, in the
        folder of this program:
      </p>
      <p class="mono small command">{{ command }}</p>
    </div>
    <CommonProblem :problem="problem" />
  </div>
</template>

<style scoped>
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  padding: 10px 0;
}
.code {
  font-size: 22px;
}
.command {
  overflow-wrap: anywhere;
}
</style>
