/**
 * Copies a text. A page that came without encryption, as on a phone in the kitchen, may not use the clipboard
 * directly; there the text is selected and copied as by hand. Says whether it worked.
 */
export async function copyText(text: string): Promise<boolean> {
  const clipboard = navigator.clipboard as Clipboard | undefined;
  if (clipboard) {
    return clipboard.writeText(text).then(
      () => true,
      () => false,
    );
  }
  const field = document.createElement("textarea");
  field.value = text;
  field.setAttribute("readonly", "");
  field.style.position = "fixed";
  field.style.opacity = "0";
  document.body.append(field);
  field.select();
  // Old, and the only way there.
  const copied = document.execCommand("copy");
  field.remove();
  return copied;
}
