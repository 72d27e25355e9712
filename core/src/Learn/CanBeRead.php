<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model whose reading tells what it answers: leaf by leaf, rule by rule, term by term. */
interface CanBeRead
{
    /** How many leaves, rules or terms there are to read. */
    public function reading(): int;
}
