"use client";

import { useCallback, useEffect, useState } from "react";

export interface Address {
  batch: string | null;
  row: string | null;
}

/**
 * Batch and photo stand in the address, so that a reload comes back to them. Null before the page is there.
 */
export function useAddress(): [Address | null, (row: string) => void] {
  const [address, setAddress] = useState<Address | null>(null);
  useEffect(() => {
    const search = new URLSearchParams(window.location.search);
    setAddress({ batch: search.get("batch"), row: search.get("row") });
  }, []);
  const choose = useCallback((row: string) => {
    const search = new URLSearchParams(window.location.search);
    search.set("row", row);
    window.history.replaceState(null, "", `?${search}`);
    setAddress((old) => old && { ...old, row });
  }, []);
  return [address, choose];
}
