<template>
  <section class="page">
    <h1>There is nothing at this address</h1>
    <p><RouterLink to="/">Go to Today</RouterLink></p>
  </section>
</template>

<style scoped>
.page {
  display: grid;
  gap: 12px;
}
</style>
