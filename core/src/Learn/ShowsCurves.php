<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that is a sum of one curve for each column, and of a few pairs. */
interface ShowsCurves extends Model
{
    /** @return list<ShownCurve> that which carries most first */
    public function curves(): array;

    /** @return list<ShownPair> that which carries most first */
    public function pairs(): array;

    /** What an answer starts from, per class of several, else one: log-odds, or a number. */
    public function start(): float;

    /** Whether curves add to log-odds; to the number itself otherwise. */
    public function addsToOdds(): bool;
}
