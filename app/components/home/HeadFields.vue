<script setup lang="ts">
export interface JobHead {
  title: string
  note: string
  customer: { name: string; phone: string; email: string }
  site: { name: string; address: string; yearBuilt: string; doorCode: string }
}
const head = defineModel<JobHead>({ required: true })
withDefaults(defineProps<{ known: boolean; problem?: Problem | null }>(), { problem: null })
</script>

<template>
  <div class="grid sm:grid-cols-2 gap-3">
    <UFormField label="What the job is" name="title" :error="faultAt(problem, 'job.title')"
      ><UInput v-model="head.title" name="title" placeholder="Net loft and stair"
    /></UFormField>
    <UFormField label="Note for the crew" name="note" :error="faultAt(problem, 'job.note')"
      ><UInput v-model="head.note" name="note"
    /></UFormField>
    <template v-if="!known">
      <UFormField label="Customer" name="customer" :error="faultAt(problem, 'customer.name')"
        ><UInput v-model="head.customer.name" name="customer"
      /></UFormField>
      <UFormField label="Phone" name="phone" :error="faultAt(problem, 'customer.phone')"
        ><UInput v-model="head.customer.phone" name="phone" type="tel"
      /></UFormField>
      <UFormField label="What the crew calls the home" name="site" :error="faultAt(problem, 'site.name')"
        ><UInput v-model="head.site.name" name="site"
      /></UFormField>
      <UFormField label="Address" name="address" :error="faultAt(problem, 'site.address')"
        ><UInput v-model="head.site.address" name="address"
      /></UFormField>
      <UFormField label="Year built" name="year" :error="faultAt(problem, 'site.yearBuilt')"
        ><UInput v-model="head.site.yearBuilt" name="year" inputmode="numeric"
      /></UFormField>
      <UFormField label="Door code" name="door" help="Stored encrypted; every reading is logged."
        ><UInput v-model="head.site.doorCode" name="door" autocomplete="off"
      /></UFormField>
    </template>
  </div>
</template>
