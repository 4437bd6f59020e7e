/** A file from a drop or a chooser, with its path within what was dropped. */
export interface DroppedFile {
  name: string;
  file: File;
}

/** Every file of a drop, folders opened all the way down. */
export async function filesOfDrop(data: DataTransfer): Promise<DroppedFile[]> {
  const entries = [...data.items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...data.files].map((file) => ({ name: file.name, file }));
  const found: DroppedFile[] = [];
  for (const entry of entries) await collect(entry, found);
  return found;
}

export const filesOfChooser = (list: FileList): DroppedFile[] =>
  [...list].map((file) => ({ name: file.webkitRelativePath || file.name, file }));

async function collect(entry: FileSystemEntry, found: DroppedFile[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    if (!file.name.startsWith('.')) found.push({ name: entry.fullPath.replace(/^\//, ''), file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (batch.length === 0) return;
    for (const inner of batch) await collect(inner, found);
  }
}
