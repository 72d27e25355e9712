<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that was built in rounds, with an error after each. */
interface ShowsCourse extends Model
{
    /** @return list<array{round: int, training: ?float, held: ?float}> errors on rows learned from, and on rows that were not */
    public function course(): array;

    /** What a round is: a tree, or an epoch. */
    public function courseBy(): string;

    /** What the errors are of, such as "log loss". */
    public function courseOf(): string;
}
