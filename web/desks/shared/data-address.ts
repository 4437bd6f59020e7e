/** Bytes as an address that holds them, for pages that stand alone. */
export const dataAddress = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('The picture could not be kept: free memory and try again.'));
    reader.readAsDataURL(blob);
  });
