<template>
  <p class="row mb-8" aria-hidden="true">
    <svg width="60" height="34" viewBox="0 0 30 17">
      <path d="M0 11H9M20 11H30" stroke="var(--copper)" stroke-width="3.4" />
      <path d="M20 11L10 3" stroke="var(--ink)" stroke-width="2.8" stroke-linecap="round" />
    </svg>
    <b class="text-2xl">Circuitry</b>
  </p>
</template>
