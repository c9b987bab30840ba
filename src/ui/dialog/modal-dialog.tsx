'use client';

import { useId, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';

export interface DialogProps {
  title: string;
  size?: 'lg';
  /** Of a button beside the title; without it, the dialog brings its own. */
  closeText?: string;
  className?: string;
  onClose(): void;
  children: ReactNode;
}

/** What is asked or told before one goes on; Escape closes it. */
export default function ModalDialog({
  title,
  size,
  closeText,
  className,
  onClose,
  children,
}: DialogProps) {
  const id = useId();
  const heading = (
    <h2 id={id} className={closeText === undefined ? '' : 'm-0'}>
      {title}
    </h2>
  );
  return (
    <Modal
      show
      size={size}
      centered={closeText === undefined}
      scrollable={closeText !== undefined}
      onHide={onClose}
      aria-labelledby={id}
    >
      {closeText !== undefined && (
        <Modal.Header>
          {heading}
          <Button variant="plain" className="ms-auto" onClick={onClose}>
            {closeText}
          </Button>
        </Modal.Header>
      )}
      <Modal.Body className={className} tabIndex={closeText === undefined ? undefined : 0}>
        {closeText === undefined && heading}
        {children}
      </Modal.Body>
    </Modal>
  );
}
