<template>
  <section aria-labelledby="out">
    <h2 id="out">Everything out</h2>
    <p class="quiet">
      Orders, customers, products, batches, the logbook and the stores, as tables (CSV) and as JSON, for other programs.
      A backup is what brings the studio back.
    </p>
    <a class="word" href="/api/everything" download>Take everything out</a>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  justify-items: start;
}
</style>
