<script setup lang="ts">
// All keys, by where they act.
import Dialog from 'primevue/dialog'
import { KEYS } from './keys'

const visible = defineModel<boolean>({ required: true })
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask header="Keys" class="keys-dialog">
    <div class="groups">
      <section v-for="group in KEYS" :key="group.title">
        <h3>{{ group.title }}</h3>
        <dl>
          <template v-for="key in group.keys" :key="key.cap + key.says">
            <dt>
              <kbd>{{ key.cap }}</kbd>
            </dt>
            <dd>{{ key.says }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.groups {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 18px 40px;
  width: min(880px, 86vw);
}
h3 {
  margin: 0 0 8px;
  font-size: 15px;
  color: var(--hand);
}
dl {
  display: grid;
  grid-template-columns: 124px 1fr;
  gap: 7px 12px;
  margin: 0;
}
dd {
  margin: 0;
}
</style>
