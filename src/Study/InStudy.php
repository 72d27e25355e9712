<?php

declare(strict_types=1);

namespace App\Study;

/** Belongs to a study; who may see the study may see it. */
interface InStudy
{
    public function study(): Study;
}
