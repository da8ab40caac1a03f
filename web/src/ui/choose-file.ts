/** Asks for a file, within the press that asks for it. @param accept as the browser's own question wants it @returns null where nobody chose one */
export function chooseFile(accept: string): Promise<File | null> {
  const input = document.createElement('input');
  input.type = 'file';
  input.accept = accept;
  return new Promise((resolve) => {
    input.onchange = () => resolve(input.files?.[0] ?? null);
    input.oncancel = () => resolve(null);
    input.click();
  });
}
