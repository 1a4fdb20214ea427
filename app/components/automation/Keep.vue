<script setup lang="ts">
import type { Submission } from '~/composables/useJobRecord'

/** A form of what the home does by itself: what stands in it, what is wrong with that, and one button. */
const props = defineProps<{ wrong?: string; give: () => Promise<Submission> }>()
const emit = defineEmits<{ done: [] }>()
const { busy, refusal, run } = useAction()
async function save() {
  if (props.wrong === undefined && (await run(props.give))) emit('done')
}
</script>

<template>
  <form class="stack" @submit.prevent="save">
    <slot />
    <p v-if="wrong" class="small warn">{{ wrong }}</p>
    <CommonRefusal :refusal="refusal" />
    <UButton type="submit" variant="solid" :loading="busy" :disabled="wrong !== undefined">Save it</UButton>
    <slot name="after" />
  </form>
</template>

<style scoped>
:deep(fieldset) {
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
</style>
