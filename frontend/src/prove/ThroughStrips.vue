<script setup lang="ts">
import type { SeeThroughView } from '@/api/client'

/** Solid and see-through, one above the other: on the base, on other grounds, over a picture, and in use. */
defineProps<{ view: SeeThroughView }>()
const at = (view: SeeThroughView, step: number) => view.steps.find((one) => one.step === step)!
</script>

<template>
  <div class="strips">
    <div class="row small muted">
      <span />
      <span v-for="step in view.steps" :key="step.step" class="mono">{{ step.step }}</span>
    </div>
    <div class="row">
      <span>solid</span>
      <i v-for="step in view.steps" :key="step.step" v-hint="step.solid" class="chip" :style="{ background: step.solid }" />
    </div>
    <div class="row">
      <span>on {{ view.base_name }}</span>
      <i v-for="step in view.steps" :key="step.step" v-hint="step.rgb" class="chip" :style="{ background: view.base }">
        <b :style="{ background: step.rgb }" />
      </i>
    </div>
    <div class="row small muted">
      <span>alpha</span>
      <span v-for="step in view.steps" :key="step.step" class="mono">{{ step.alpha }}%</span>
    </div>
    <div v-for="ground in view.grounds" :key="ground.name" class="row">
      <span v-hint="ground.name">on {{ ground.name }}</span>
      <i
        v-for="(hex, index) in ground.seen"
        :key="index"
        v-hint="hex"
        class="chip low"
        :style="{ background: ground.ground }"
      >
        <b :style="{ background: view.steps[index]!.rgb }" />
      </i>
    </div>
    <div class="row">
      <span>over a picture</span>
      <i v-for="step in view.steps" :key="step.step" class="chip picture low"><b :style="{ background: step.rgb }" /></i>
    </div>
    <div class="uses layout" :style="{ background: view.base }" aria-label="In use">
      <span class="use"><b class="fill" :style="{ background: at(view, 100).rgb }" />hover fill</span>
      <span class="use"><b class="line" :style="{ background: at(view, 300).rgb }" />divider</span>
      <span class="use"><b class="card" :style="{ boxShadow: `0 5px 14px ${at(view, 400).rgb}` }" />shadow</span>
      <span class="use"><b class="fill picture veil"><u :style="{ background: at(view, 600).rgb }" /></b>veil</span>
    </div>
  </div>
</template>

<style scoped>
.strips {
  display: grid;
  gap: 5px;
}
.row {
  display: grid;
  grid-template-columns: 104px repeat(11, 1fr);
  align-items: center;
}
.row > span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 12px;
}
.row > .mono {
  text-align: center;
}
.chip {
  position: relative;
  height: 34px;
}
.chip.low {
  height: 22px;
}
.chip b {
  position: absolute;
  inset: 0;
}
.chip.low b {
  inset: 0 0 0 35%;
}
.picture {
  background:
    radial-gradient(circle at 30% 40%, #f4efe0 0 18%, transparent 19%),
    repeating-linear-gradient(160deg, #2f4a54 0 6px, #b9c7c2 6px 11px, #6f8a8f 11px 17px);
}
.uses {
  display: flex;
  gap: 26px;
  padding: 12px 16px;
}
.use {
  display: grid;
  gap: 5px;
  justify-items: center;
  font-size: 12px;
  color: #555;
  mix-blend-mode: normal;
}
.use b {
  display: block;
  position: relative;
  width: 92px;
  height: 30px;
}
.use .line {
  height: 2px;
  margin: 14px 0;
}
.use .card {
  background: inherit;
  border: 1px solid rgb(0 0 0 / 6%);
}
.use u {
  position: absolute;
  inset: 0 0 0 30%;
}
</style>
