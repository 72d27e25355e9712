<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

/** What newer records say of a model. Definition: docs/methods/recheck.md. */
enum Verdict: string
{
    case TooFew = 'too few to tell';
    case Holds = 'holds';
    case WearingOff = 'wearing off';
    case NoLonger = 'no longer';

    public function said(): string
    {
        return ucfirst($this->value);
    }
}
