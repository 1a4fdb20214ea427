<script setup lang="ts">
/** Somebody guesses at one’s password or PIN: its owner learns of it, wherever they are logged in. */
const emit = defineEmits<{ logins: [] }>()
const session = useSession()
/** Their own, said to be: counted from there on. */
const own = useLocalStorage(`circuitry-tried-${session.viewer?.personId}`, { passwords: 0, pins: 0 })
/** A few are everybody’s own, by gloves and hurry. */
const [fewPasswords, fewPins] = [5, 3]
const since = (now: number, known: number) => (known <= now ? now - known : now)
const passwords = computed(() => since(session.tried?.passwords ?? 0, own.value.passwords))
const pins = computed(() => since(session.tried?.pins ?? 0, own.value.pins))
const shown = computed(() => passwords.value >= fewPasswords || pins.value >= fewPins)
const what = computed(() =>
  listed([
    ...(passwords.value ? [counted(passwords.value, 'wrong password', 'wrong passwords')] : []),
    ...(pins.value ? [counted(pins.value, 'wrong PIN', 'wrong PINs')] : []),
  ]),
)
const wasMe = () => (own.value = { passwords: session.tried?.passwords ?? 0, pins: session.tried?.pins ?? 0 })
</script>

<template>
  <aside v-if="shown" class="page-bar row wrap" aria-label="Wrong passwords and PINs">
    <span class="grow"
      ><b>{{ `${what} were tried for you within a day.` }}</b> If that was not you: set another, and tell your lead.</span
    >
    <UButton @click="emit('logins')">Logins and password</UButton>
    <UButton variant="link" @click="wasMe">It was me</UButton>
  </aside>
</template>

<style scoped>
.grow {
  flex-basis: 260px;
}
</style>
