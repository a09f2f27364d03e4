/** A file that is chosen for something beside it. */
export function FileLink({ text, accept, onFile }: { text: string; accept: string; onFile: (file: File) => void }) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center text-sm underline focus-within:outline-2 sm:min-h-8">
      {text}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
