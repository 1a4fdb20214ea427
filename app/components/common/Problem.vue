<script setup lang="ts">
import type { Problem } from '~/utils/api'

const props = defineProps<{ problem: Problem | null }>()
const faults = computed(() => faultsOf(props.problem))
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
