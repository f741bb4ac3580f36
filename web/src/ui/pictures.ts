/** The longest side of a picture that is kept, pixels: a laptop's screen has hardly more. */
const LONGEST = 1600;
/** How true to the photograph it stays; from here on the eye sees no difference, and the file halves. */
const TRUE = 0.85;

/** A width and height that fit, in the same proportion; what is small already stays as it is. */
export function fitted(width: number, height: number, longest = LONGEST) {
  const by = Math.min(1, longest / Math.max(width, height, 1));
  return {
    width: Math.max(1, Math.round(width * by)),
    height: Math.max(1, Math.round(height * by)),
  };
}

/** Where a batch's picture is found; another picture has another address. */
export function pictureOf(batch: { id: string; picture?: string | null }): string | undefined {
  if (batch.picture == null) return undefined;
  return `/api/batches/${batch.id}/picture?since=${encodeURIComponent(batch.picture)}`;
}

/** A photograph made small; what the camera wrote beside it, such as where that was, is left out. */
export async function shrunk(file: File, longest = LONGEST): Promise<Blob> {
  const photo = await createImageBitmap(file).catch(() => {
    throw new Error(`This browser can't read “${file.name}” as a picture.`);
  });
  const canvas = document.createElement("canvas");
  Object.assign(canvas, fitted(photo.width, photo.height, longest));
  canvas.getContext("2d")!.drawImage(photo, 0, 0, canvas.width, canvas.height);
  photo.close();
  return new Promise((done, failed) =>
    canvas.toBlob(
      (made) =>
        made ? done(made) : failed(new Error("This browser couldn't resize the picture.")),
      "image/jpeg",
      TRUE,
    ),
  );
}
