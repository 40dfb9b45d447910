import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';

/** Uploads in progress: a confirmation before they end would go on without them. */
const Uploading = createContext<(change: 1 | -1) => void>(() => {});

/** Counts the uploads of the fields inside, and answers whether any is in progress. */
export const UploadScope = ({ children }: { children: (uploading: boolean) => ReactNode }) => {
  const [count, setCount] = useState(0);
  const [change] = useState(() => (by: 1 | -1) => setCount((before) => before + by));
  return <Uploading value={change}>{children(count > 0)}</Uploading>;
};

/** Reports an upload in progress to the surrounding form. */
export const useUploading = (isUploading: boolean): void => {
  const change = useContext(Uploading);
  useEffect(() => {
    if (!isUploading) return;
    change(1);
    return () => change(-1);
  }, [isUploading, change]);
};
