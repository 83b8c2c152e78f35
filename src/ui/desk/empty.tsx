import { Button } from "../parts";

export function Welcome({
  onOpen,
  onSample,
  demoComing,
}: {
  onOpen: () => void;
  onSample: () => void;
  demoComing: boolean;
}) {
  return (
    <section className="row-span-2 overflow-y-auto px-12 py-14">
      <h2 className="text-[22px] font-bold tracking-tight">Files that are accepted, at the first try</h2>
      <ol className="mt-5 max-w-prose list-decimal space-y-2 pl-5 text-[15px]">
        <li>Drop photos anywhere on this page.</li>
        <li>Say what the receiver asks for: pixels, file size, format, resolution.</li>
        <li>Look at what each photo will become, and make the files. Each comes with its proof.</li>
      </ol>
      <div className="mt-7 flex items-center gap-5">
        <Button kind="main" onClick={onOpen}>
          Choose photos
        </Button>
        <Button kind="quiet" onClick={onSample}>
          Try it on a sample
        </Button>
      </div>
      {demoComing && (
        <p className="mt-6 text-second">
          The demo, pictures of the Quillmoor Moth Survey, is being made. It takes about a minute, once.
        </p>
      )}
    </section>
  );
}

export function EmptyBatch({ onOpen, demoComing }: { onOpen: () => void; demoComing: boolean }) {
  return (
    <section className="grid place-items-center p-10 text-center">
      <div>
        <h2 className="text-lg font-semibold">
          {demoComing ? "The pictures are on their way" : "No photos in this batch yet"}
        </h2>
        <p className="mt-1 text-second">Drop some anywhere on this page, or paste a picture.</p>
        <Button className="mt-4" onClick={onOpen}>
          Choose photos
        </Button>
      </div>
    </section>
  );
}
