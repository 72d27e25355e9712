<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** What cannot be done, with a sentence for the analyst: it is shown as it is, and nothing was changed. */
interface Refusal extends \Throwable
{
}
