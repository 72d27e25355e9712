<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** One treatment of a table: settings only; what it learns from data is in the fitted step. */
interface Step
{
    /** Changes when the same settings would give other cells; part of what makes a result stale. */
    public const VERSION = 1;

    public static function described(): Described;

    /** @throws CannotPrepare when a setting makes no sense */
    public static function fromSettings(Settings $given): self;

    /** @return array<string, mixed> with the key "step" naming the kind of step */
    public function toArray(): array;

    /** @throws CannotPrepare */
    public function fit(Lesson $lesson): FittedStep;
}
