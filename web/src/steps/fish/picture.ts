/** A picture of a fish: drawn anew and small, so that neither its weight nor its place leaves the device. */

const LONGEST_PX = 1600
const QUALITY = 0.8

/** The picture as JPEG in base64, upright and without anything beside its pixels. Throws where it cannot be read. */
export async function madeSmall(file: Blob): Promise<string> {
  const image = await createImageBitmap(file, { imageOrientation: 'from-image' })
  const share = Math.min(1, LONGEST_PX / Math.max(image.width, image.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(image.width * share)
  canvas.height = Math.round(image.height * share)
  const pen = canvas.getContext('2d')
  if (!pen) throw new Error('no canvas')
  pen.drawImage(image, 0, 0, canvas.width, canvas.height)
  image.close()
  return canvas.toDataURL('image/jpeg', QUALITY).replace(/^data:[^,]*,/, '')
}
