<script setup lang="ts">
// Files from this machine. What a file is, Python finds out and says; nothing is refused here.
import FileUpload, { type FileUploadUploaderEvent } from 'primevue/fileupload'

defineProps<{ title: string; label: string; accept: string; several?: boolean; disabled?: boolean }>()
const emit = defineEmits<{ files: [files: File[]] }>()
const found = (event: FileUploadUploaderEvent): void => emit('files', [event.files].flat())
</script>

<template>
  <FileUpload
    mode="basic"
    auto
    custom-upload
    unstyled
    :choose-button-props="{ unstyled: true, class: 'button pick' }"
    :multiple="several"
    :disabled="disabled"
    :choose-label="title"
    :pt="{ input: { accept, 'aria-label': label, class: 'hidden' }, filelabel: { class: 'hidden' } }"
    @uploader="found"
  />
</template>
