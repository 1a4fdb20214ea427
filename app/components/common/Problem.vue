<script setup lang="ts">
import type { Problem } from '~/utils/api'

const props = defineProps<{
  problem: Problem | null
  /** Paths whose faults stand at their fields. */
  placed?: string[]
}>()
const faults = computed(() => faultsOf(props.problem).filter(({ where }) => !props.placed?.some((path) => liesAt(where, path))))
</script>

<template>
  <div v-if="problem" class="note red" role="alert" data-testid="problem">
    <b class="bad">{{ problem.message }}</b>
    <table v-if="faults.length" class="plain mt-2">
      <tbody>
        <tr v-for="(fault, index) in faults.slice(0, 60)" :key="index">
          <td class="mono">{{ fault.where }}</td>
          <td>{{ fault.problem }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
