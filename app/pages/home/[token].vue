<script setup lang="ts">
import type { HomeCode } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** A home as its household keeps it: reached by its link alone, without an account; codes by their own PIN. */
definePageMeta({ layout: false })
const { token, page, problem, load } = useLinkedPage((token) => api('GET /api/home-pages/:token', { params: { token } }))
const region = computed((): Region => ({ zone: page.value?.zone ?? 'UTC', locale: (page.value?.locale ?? 'en-US') as Region['locale'] }))
const wrong = computed(() => page.value?.sections.find(({ id }) => id === 'wrong'))
const rest = computed(() => page.value?.sections.filter(({ id }) => id !== 'wrong') ?? [])

const pin = ref('')
const codes = shallowRef<HomeCode[] | null>(null)
const { busy, problem: failed, give } = useGiving()
async function show() {
  const answer = await give(() => api('POST /api/home-pages/:token/codes', { params: { token }, body: { pin: pin.value } }))
  pin.value = ''
  if (answer) codes.value = answer.codes
}
const passphrase = ref('')
// Whoever lays the telephone down does not leave the codes on it.
const shownForMs = 120_000
watch(codes, (shown, _, done) => {
  if (!shown) return
  const timer = setTimeout(() => (codes.value = null), shownForMs)
  done(() => clearTimeout(timer))
})
useHead({
  title: () => page.value?.home ?? 'Home',
  meta: [
    { name: 'robots', content: 'noindex' },
    { name: 'referrer', content: 'no-referrer' },
  ],
})
</script>

<template>
  <main class="page home-page">
    <template v-if="page">
      <p class="kicker">{{ page.company }}</p>
      <h1 class="sentence mb-2">{{ page.home }}: what is where, and what to do.</h1>
      <p class="soft">
        {{ page.handedOverAt ? `Handed over ${dayWord(page.handedOverAt, region)}.` : 'Not handed over yet: it may still change.' }} This
        page works to {{ dayWord(page.until, region) }}; keep the file for later.
      </p>
      <div class="row wrap mt-3">
        <UButton :to="`/api/home-pages/${token}/file?as=html`" external icon="i-lucide-download">Keep it as a file</UButton>
        <UButton :to="`/api/home-pages/${token}/file?as=pdf`" external data-paper target="_blank" icon="i-lucide-printer">To print</UButton>
        <UButton :to="`/api/home-pages/${token}/file?as=card`" external data-paper target="_blank" icon="i-lucide-file-text"
          >Card for guests</UButton
        >
      </div>
      <section v-if="wrong" class="note mt-5" :aria-label="wrong.title">
        <h2 class="kicker mb-1">{{ wrong.title }}</h2>
        <p v-for="(line, index) in wrong.lines" :key="index" class="line">{{ line }}</p>
        <p v-if="page.telephone">
          <a class="call" :href="`tel:${page.telephone.replace(/[^+\d]/g, '')}`"><UIcon name="i-lucide-phone" /> {{ page.telephone }}</a>
        </p>
      </section>
      <section v-for="section in rest" :key="section.id" class="mt-6" :aria-label="section.title">
        <h2 class="kicker mb-2">{{ section.title }}</h2>
        <component
          :is="section.numbered ? 'ol' : 'ul'"
          v-if="section.lines.length"
          :class="section.numbered ? 'list-decimal' : 'list-disc'"
          class="ps-6"
        >
          <li v-for="(line, index) in section.lines" :key="index" class="line">{{ line }}</li>
        </component>
        <div v-for="(row, index) in section.table?.rows ?? []" :key="index" class="entry">
          <p>
            <b>{{ row[0] }}</b>
          </p>
          <p v-for="(cell, at) in row.slice(1)" v-show="cell" :key="at" class="small">
            <span class="soft">{{ section.table!.heads[at + 1] }}:</span> {{ cell }}
          </p>
        </div>
      </section>
      <section class="mt-6" aria-label="Setup codes">
        <h2 class="kicker mb-2">Setup codes</h2>
        <p v-if="!page.hasPin" class="soft">They are not on this page: they stand on the cards, and on the devices behind their plates.</p>
        <template v-else-if="codes">
          <div v-for="one in codes" :key="one.serial" class="entry">
            <p>
              <b>{{ one.name || one.serial }}</b> <span class="soft small">{{ one.where }}, {{ one.serial }}</span>
            </p>
            <p class="mono code">{{ one.code }}</p>
          </div>
          <UButton v-if="codes.length" class="mt-2" @click="codes = null">Hide them</UButton>
          <p v-if="!codes.length" class="soft">No device here has a code on record.</p>
          <HomeSealedFile v-else-if="!passphrase" v-model="passphrase" :token="token" :codes="codes" />
        </template>
        <form v-else class="row wrap items-end" @submit.prevent="show">
          <UFormField label="Your PIN"
            ><UInput v-model="pin" name="pin" type="password" inputmode="numeric" autocomplete="off" maxlength="12" class="w-48"
          /></UFormField>
          <UButton type="submit" :loading="busy" :disabled="!pin">Show them</UButton>
        </form>
        <div v-if="passphrase" class="note mt-3" role="status">
          <p>The file you keep opens its codes with this passphrase:</p>
          <p class="mono code">{{ passphrase }}</p>
          <p class="small">Write it down, and keep it apart from the file. It is kept nowhere else: nobody can tell you it again.</p>
          <UButton class="mt-2" @click="passphrase = ''">I have written it down</UButton>
        </div>
        <CommonProblem :problem="failed" class="mt-2" />
      </section>
    </template>
    <template v-else-if="problem">
      <h1 class="sentence mb-3">There is no home here.</h1>
      <CommonProblem :problem="problem" />
      <UButton v-if="problem.status === 0 || problem.status >= 500" class="mt-3" @click="load">Try again</UButton>
    </template>
    <p v-else class="soft" aria-busy="true">Opening …</p>
  </main>
</template>

<style scoped>
.home-page {
  max-width: 720px;
}
.line {
  margin: 6px 0;
}
.entry {
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.code {
  font-size: 22px;
  overflow-wrap: anywhere;
}
.call {
  font-size: 18px;
  min-height: 44px;
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
