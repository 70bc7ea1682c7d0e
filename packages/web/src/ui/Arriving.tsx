/** Stands for a dialog whose code is on its way: keys are the dialog's already, and act on nothing behind it. */
export const Arriving = () => <div role="dialog" aria-busy="true" aria-label="Opening" hidden />;
