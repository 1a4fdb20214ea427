<script setup lang="ts">
import type { Erasable } from '../../../core/protocol'

defineProps<{ customer: Erasable; what: string }>()
/** Ids of those who are chosen. */
const chosen = defineModel<string[]>({ required: true })
const session = useSession()
</script>

<template>
  <label class="one"
    ><input v-model="chosen" type="checkbox" class="tick" :value="customer.customerId" :disabled="customer.inTheWay.length > 0" /><span
      class="grow"
      ><b>{{ customer.name }}</b> <span class="soft">{{ customer.homes.join(' · ') || 'their home is somebody else’s now' }}</span><span
        class="small soft block"
        >{{ what }} · last: {{ dayAndTime(customer.lastAt, session.region) }}</span
      ><span v-for="reason in customer.inTheWay" :key="reason" class="small warn block">{{ reason }}</span></span
    ></label
  >
</template>

<style scoped>
.one {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.tick {
  width: 20px;
  height: 20px;
  margin-top: 2px;
  flex: none;
  accent-color: var(--ink);
}
</style>
