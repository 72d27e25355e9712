<?php

declare(strict_types=1);

namespace App\Storage;

/**
 * What differs between the databases that an installation may be kept in. All else is the same SQL on both: docs/operate.md.
 */
interface Store
{
    /** As people call it. */
    public function title(): string;

    /** Whether several machines may work on it at once: then nothing that they share may lie on a disk of one of them. */
    public function isShared(): bool;

    /** Seconds since 1970 by the clock that leases are measured by. */
    public function now(): float;

    /** What a choice of work adds, so that two workers that choose at the same moment choose differently. */
    public function choosing(): string;

    /**
     * Within a transaction: whoever asks for the same waits until it is over. Numbers that follow each other are drawn behind this.
     *
     * @param string $what of which there is one for each
     * @param int    $of   a study, a job
     */
    public function alone(string $what, int $of): void;

    /** Whether what is stored can be read whole. */
    public function isSound(): bool;

    /** Gives room back that deleted things took. */
    public function reclaim(): void;

    /** Bytes that it takes. */
    public function size(): int;
}
