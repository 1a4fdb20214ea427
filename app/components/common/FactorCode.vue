<script setup lang="ts">
/** The code of a second factor, asked for once the password was right; what was wrong with a login is said here, too. */
const props = defineProps<{ problem: Problem | null }>()
const code = defineModel<string>({ required: true })
const asked = ref(false)
watch(
  () => props.problem?.code,
  (is) => {
    if (is === 'codeNeeded') asked.value = true
    if (is === 'wrongCode') code.value = ''
  },
)
</script>

<template>
  <div class="stack">
    <UFormField v-if="asked" label="Code" name="code" help="Six digits, from your other device."
      ><UInput v-model="code" name="code" inputmode="numeric" autocomplete="one-time-code" maxlength="7" autofocus class="w-full"
    /></UFormField>
    <CommonProblem v-if="problem?.code !== 'codeNeeded' || code" :problem="problem" />
  </div>
</template>
