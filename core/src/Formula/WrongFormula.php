<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

use Dokimos\Core\Refusal;

/** A formula cannot be read or computed; the message is a sentence, with the place where there is one. */
final class WrongFormula extends \RuntimeException implements Refusal
{
    /** @param ?int $at letters before the place, from 0 */
    public function __construct(string $message, public readonly ?int $at = null, ?\Throwable $previous = null)
    {
        parent::__construct($message, 0, $previous);
    }
}
