<?php

declare(strict_types=1);

namespace App\Job;

/** A runner whose unfinished work already has a figure worth watching. */
interface TellsFigure
{
    public function figureSoFar(Job $job): ?FigureSoFar;
}
