import { create } from 'zustand';

/** Whether it is being asked which files the project makes. */
export const useWhichFiles = create<{ open: boolean }>(() => ({ open: false }));
export const askWhichFiles = () => useWhichFiles.setState({ open: true });
export const closeWhichFiles = () => useWhichFiles.setState({ open: false });
