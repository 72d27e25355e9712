<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;

/** A part of a trial's page. Which come is decided by what the model can show: a new one is a class, a line in Sections and one component. */
interface Section
{
    /** @return ?self null where there is nothing of the kind to show */
    public static function of(Trial $trial, ScoringModel $scoring): ?self;
}
