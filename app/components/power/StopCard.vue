<script setup lang="ts">
const open = ref(false)
const { page } = injectJobRecord()
</script>

<template>
  <UModal v-model:open="open" title="Stop work" description="Anyone may stop the work, at any time, without a reason.">
    <UButton color="error" variant="solid" class="px-3">Stop</UButton>
    <template #body>
      <ol class="stack text-[17px]">
        <li><b>Hands off, step back.</b> Say it aloud, so that everybody in the home hears it.</li>
        <li><b>Somebody is touching a live part?</b> Do not touch them. Open the breaker; if you do not know which, open the main.</li>
        <li>
          <b>Call the emergency number</b> of this country. The address is:<br /><span class="mono">{{ page?.site.address }}</span>
        </li>
        <li><b>Smoke or fire?</b> Everybody out. No water on anything electrical.</li>
        <li>
          <b>Then report it here:</b> tap the circuit and say what you found. Every proof behind it ends, and everyone who relied on it is
          alarmed.
        </li>
      </ol>
      <p class="soft small mt-4">Even after a small shock: a doctor, today. The heart can react later.</p>
    </template>
  </UModal>
</template>
