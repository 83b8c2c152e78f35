"use client";

/** Short words at the foot of the screen. Their library is loaded after the screen, and waited for. */
import dynamic from "next/dynamic";
import { useEffect } from "react";
import type { ExternalToast } from "sonner";

let appeared: () => void = () => undefined;
/** What is said before the place for it is there would be lost. */
const place = new Promise<void>((resolve) => {
  appeared = resolve;
});

async function told(words: string, kind: "plain" | "error", more?: ExternalToast): Promise<void> {
  const [{ toast }] = await Promise.all([import("sonner"), place]);
  if (kind === "error") toast.error(words, more);
  else toast(words, more);
}

/** Where its library does not come, neither does anything else: that is said by the page itself. */
const lost = () => undefined;

export const say = (words: string, more?: ExternalToast): void => void told(words, "plain", more).catch(lost);

export const sayError = (words: string, more?: ExternalToast): void =>
  void told(words, "error", more).catch(lost);

const Toaster = dynamic(
  async () => {
    const sonner = await import("sonner");
    return function Place() {
      useEffect(appeared, []);
      return (
        <sonner.Toaster
          position="bottom-center"
          toastOptions={{
            style: {
              borderRadius: 6,
              boxShadow: "none",
              border: "1px solid #cfcfcd",
              fontFamily: "inherit",
              color: "#1b1b1d",
            },
          }}
        />
      );
    };
  },
  { ssr: false },
);

/** Where words appear. */
export const Foot = () => <Toaster />;
