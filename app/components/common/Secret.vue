<script setup lang="ts">
/** A code in the clear. Every reading is logged; the office says why, where it has no visit in that home. */
const props = withDefaults(
  defineProps<{
    label: string
    read: (reason: string | undefined) => Promise<Answer<{ code: string }>>
    icon?: string
    variant?: 'ghost' | 'link'
  }>(),
  { icon: undefined, variant: 'link' },
)
const code = defineModel<string | null>({ default: null })
const asked = ref(false)
const why = ref('')
const { busy, problem, give } = useGiving()
async function show() {
  const answer = await give(() => props.read(why.value.trim() || undefined))
  asked.value = !answer && problem.value?.code === 'reasonNeeded'
  if (!answer) return
  code.value = answer.code
  why.value = ''
}
</script>

<template>
  <span class="row wrap">
    <UButton
      v-if="code === null && !asked"
      :variant="variant"
      :icon="icon"
      :class="{ 'p-0': variant === 'link' }"
      :loading="busy"
      @click="show"
      >{{ label }}</UButton
    >
    <form v-if="asked" class="row wrap items-end" @submit.prevent="show">
      <UFormField label="Why do you need it? It stands in the list of codes that were read." name="why"
        ><UInput v-model="why" name="why" maxlength="200" autofocus class="w-full"
      /></UFormField>
      <UButton type="submit" :loading="busy" :disabled="why.trim().length < 4">{{ label }}</UButton>
    </form>
    <slot v-if="code !== null" :code="code"
      ><span class="mono" data-testid="secret">{{ code }}</span></slot
    >
    <CommonProblem v-if="!asked" :problem="problem" />
  </span>
</template>
