<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Progress;
use Dokimos\Core\Task\Task;

/** Settings that can be fitted. Nothing learned is kept on the learner. */
interface Learner
{
    /**
     * @param array<string, mixed> $given settings by name; those left out have their usual value
     *
     * @throws CannotFit when a setting is unknown or out of its range
     */
    public function __construct(array $given = []);

    public static function described(): AboutLearner;

    public static function card(): Card;

    /** @return array<string, string|float|int|bool> every setting by name, so that they can be stored and shown */
    public function settings(): array;

    /** @throws CannotFit */
    public function fit(Task $task, ?Progress $progress = null): Model;
}
