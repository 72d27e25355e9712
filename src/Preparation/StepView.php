<?php

declare(strict_types=1);

namespace App\Preparation;

use Dokimos\Core\Prepare\Toll;

/** One step with its settings, what it does in a sentence, and its toll; without toll when switched off or impossible. */
final readonly class StepView implements \JsonSerializable
{
    /** @param array<string, mixed> $settings as the kind of step describes them */
    public function __construct(
        public string $step,
        public array $settings,
        public bool $off,
        public string $note,
        public ?string $sentence,
        public ?Toll $toll,
        public ?string $problem,
    ) {
    }

    /** @return array<string, mixed> no settings are an object without any, not a list */
    public function jsonSerialize(): array
    {
        return ['settings' => (object) $this->settings] + get_object_vars($this);
    }
}
