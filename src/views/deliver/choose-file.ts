type Picker = (options: {
  suggestedName: string;
  types: { description: string; accept: Record<string, string[]> }[];
}) => Promise<FileSystemFileHandle>;

const picker = (): Picker | undefined => (globalThis as { showSaveFilePicker?: Picker }).showSaveFilePicker;

/** Whether this browser lets a page write straight to a file the user chooses. */
export const CAN_CHOOSE = picker() !== undefined;

/** Lets the user choose where a file goes; null where they changed their mind. */
export async function chooseFile(suggestedName: string, type: string, ending: string): Promise<FileSystemFileHandle | null> {
  const choose = picker();
  if (!choose) return null;
  return choose({ suggestedName, types: [{ description: ending.toUpperCase(), accept: { [type]: [`.${ending}`] } }] }).catch(() => null);
}
