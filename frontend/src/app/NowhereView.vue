<template>
  <main class="p-5">
    <h1 class="text-title font-semibold">There is nothing here</h1>
    <p class="mt-2"><RouterLink class="underline" to="/">Back to the Bench</RouterLink></p>
  </main>
</template>
