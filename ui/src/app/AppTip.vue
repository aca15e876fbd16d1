<script setup lang="ts">
import { tip } from '../shared/tips'
</script>

<template>
  <el-tooltip
    v-if="tip"
    :visible="true"
    :virtual-ref="tip.of"
    virtual-triggering
    :content="tip.text"
    :show-after="0"
    :enterable="false"
    placement="top"
    aria-hidden="true"
  />
</template>
