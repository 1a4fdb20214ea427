<script setup lang="ts">
defineProps<{ initials: string; title?: string }>()
</script>

<template>
  <span class="tag" :title="title">{{ initials }}</span>
</template>

<style scoped>
.tag {
  display: inline-flex;
  align-items: center;
  height: 24px;
  padding: 0 8px 0 15px;
  font: 640 12px var(--font-mono);
  background: var(--paper);
  border: 1.5px solid var(--ink);
  position: relative;
  border-radius: 2px 4px 4px 2px;
  margin-left: 8px;
  color: var(--ink);
}
.tag::before {
  content: '';
  position: absolute;
  left: 4px;
  top: 7px;
  width: 6px;
  height: 6px;
  border: 1.5px solid var(--ink);
  border-radius: 50%;
}
.tag::after {
  content: '';
  position: absolute;
  left: -9px;
  top: 10px;
  width: 8px;
  border-top: 1.5px solid var(--ink);
}
</style>
