<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model in which each value of a column speaks for a class or against it. */
interface ShowsEvidence extends TellsClasses
{
    /** @return list<ShownEvidence> by column, in the order in which columns tell most */
    public function evidence(): array;

    /** @return list<float> log-odds of each class against the others before anything is known of a record */
    public function outset(): array;
}
