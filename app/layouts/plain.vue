<template>
  <main class="plain-page"><slot /></main>
</template>

<style scoped>
.plain-page {
  max-width: 460px;
  margin: 0 auto;
  padding: 12vh 20px 40px;
}
</style>
