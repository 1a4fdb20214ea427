<script setup lang="ts" generic="Body, Value">
import type { FormErrorEvent } from '@nuxt/ui'
import { config, type ZodType } from 'zod'
import { plainProblem } from '../../../core/stream/plain-errors'

/**
 * A form for what a route takes: checked by the route's own schema before it is sent, and what the server finds stands at the
 * same fields. Nothing moves under a finger while it is filled in. A field's `name` is its path in the body.
 */
const props = defineProps<{ schema: ZodType<Body>; body: unknown; send: (body: Body) => Promise<Answer<Value>> }>()
const emit = defineEmits<{ saved: [value: Value] }>()
config({ customError: plainProblem })

const form = useTemplateRef('form')
const frame = useTemplateRef('frame')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const placed = ref<string[]>([])
/** What is wrong stands at its field; what has none is listed below. */
function show(wrong: Problem) {
  placed.value = [...(frame.value?.querySelectorAll<HTMLElement>('[name]') ?? [])].map((field) => field.getAttribute('name')!)
  problem.value = wrong
}
function incomplete({ errors }: FormErrorEvent) {
  const details = errors.map(({ name, message }) => ({ where: name ?? '', problem: message }))
  show({ status: 400, code: 'badBody', message: 'Some fields need correcting. Nothing was sent.', details })
  // The form lets its fields go only after this.
  setTimeout(() => frame.value?.querySelector<HTMLElement>(`[name="${errors[0]?.name ?? ''}"]`)?.focus())
}
async function save(body: Body) {
  busy.value = true
  problem.value = null
  const answer = await props.send(body)
  busy.value = false
  if (answer.ok) return emit('saved', answer.value)
  show(answer.problem)
  form.value?.setErrors(faultsOf(answer.problem).map(({ where, problem: message }) => ({ name: where, message })))
}
</script>

<template>
  <div ref="frame">
    <UForm
      ref="form"
      class="stack"
      :schema="schema as never"
      :state="body as never"
      novalidate
      :validate-on="[]"
      @submit="save($event.data as Body)"
      @error="incomplete"
    >
      <slot />
      <CommonProblem :problem="problem" :placed="placed" />
      <slot name="end" :busy="busy"><UButton type="submit" variant="solid" :loading="busy">Save</UButton></slot>
    </UForm>
  </div>
</template>
