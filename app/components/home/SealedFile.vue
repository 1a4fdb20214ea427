<script setup lang="ts">
import { newPassphrase } from '../../../core/handover/passphrase'
import { sealCodes, withSealedCodes, type KeptCode } from '../../../core/handover/sealed-codes'

/** The file to keep with the codes in it, sealed here: neither they nor the passphrase go anywhere. */
const props = defineProps<{ token: string; codes: KeptCode[] }>()
const passphrase = defineModel<string>({ default: '' })
const { problem, give } = useGiving()
// A browser seals only where nobody on the way can read along.
const able = typeof window === 'undefined' || Boolean(window.crypto.subtle)
// Sealing takes a moment: a second tap would be a second file with another passphrase, and only that one shown.
const sealing = ref(false)
async function keep() {
  if (sealing.value) return
  sealing.value = true
  await seal().finally(() => (sealing.value = false))
}
async function seal() {
  const file = await give(() => api('GET /api/home-pages/:token/file', { params: { token: props.token }, query: { as: 'html' } }))
  if (!file) return
  const fresh = newPassphrase((bytes) => window.crypto.getRandomValues(bytes))
  const html = await withSealedCodes(await file.text(), await sealCodes(props.codes, fresh))
  saveText('our-home-with-codes.html', 'text/html', html)
  passphrase.value = fresh
}
</script>

<template>
  <div class="stack mt-3">
    <template v-if="able">
      <UButton icon="i-lucide-lock" class="self-start" :loading="sealing" @click="keep">Keep a file with the codes, sealed</UButton>
      <p class="small soft">It opens anywhere, without internet, with a passphrase that is made now and shown once.</p>
    </template>
    <p v-else class="small soft">To keep the codes in a file, open this page by its secure address (https).</p>
    <CommonProblem :problem="problem" />
  </div>
</template>
