<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** A step that looks at other rows to take one out. It shapes what is learned from and leaves new records as they are. */
interface TrainingOnly extends FittedStep
{
    /** @return array<int, string> why, by row of the table it was fitted on */
    public function outOfTraining(): array;
}
