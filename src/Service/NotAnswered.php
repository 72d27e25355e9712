<?php

declare(strict_types=1);

namespace App\Service;

/** Why a record is not answered, in a sentence. */
final class NotAnswered extends \RuntimeException
{
}
