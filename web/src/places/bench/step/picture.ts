/** Longer side of a picture that is sent. */
const LONGER_SIDE = 1600
/** Largest file that is looked at: what is larger is no photo of a bench. */
const MOST_BYTES = 40_000_000

/**
 * A photo made small on the device, upright, as JPEG. Drawn anew, it keeps nothing of what the camera wrote beside the
 * picture; the server makes sure of that once more.
 */
export async function smallPicture(file: File): Promise<Blob> {
  if (file.size > MOST_BYTES) {
    throw new Error(
      `“${file.name}” has ${Math.round(file.size / 1e6)} MB: too large for a photo. Nothing was sent.`,
    )
  }
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
    throw new Error(`“${file.name}” is no picture that this device can read. Nothing was sent.`)
  })
  const scale = Math.min(1, LONGER_SIDE / Math.max(bitmap.width, bitmap.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(bitmap.width * scale))
  canvas.height = Math.max(1, Math.round(bitmap.height * scale))
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  bitmap.close()
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) => {
        if (blob) resolve(blob)
        else reject(new Error('This device could not make the photo small. Nothing was sent.'))
      },
      'image/jpeg',
      0.85,
    )
  })
}
