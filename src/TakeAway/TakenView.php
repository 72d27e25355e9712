<?php

declare(strict_types=1);

namespace App\TakeAway;

use Dokimos\Core\TakeAway\Form;

/** A file that was handed out, and what was found before. */
final readonly class TakenView
{
    /**
     * @param string             $says    what the proof found, in a sentence
     * @param float              $largest difference between two answers
     * @param array<string, int> $made    records it was proven on, by sort
     * @param bool               $draft   whether nobody had approved the trial
     */
    public function __construct(
        public int $id,
        public string $form,
        public string $title,
        public string $fileName,
        public int $size,
        public string $says,
        public int $records,
        public float $largest,
        public array $made,
        public bool $draft,
        public string $by,
        public string $at,
    ) {
    }

    public static function of(TakenAway $taken): self
    {
        $form = Form::from($taken->form());
        $proof = $taken->proof();
        /** @var array<string, int> $made */
        $made = \is_array($proof['made'] ?? null) ? $proof['made'] : [];

        return new self(
            $taken->id(),
            $form->value,
            $form->title(),
            \sprintf('trial-%d%s.%s', $taken->trial()->number(), $taken->isDraft() ? '-draft' : '', $form->extension()),
            $taken->size(),
            \is_string($proof['says'] ?? null) ? $proof['says'] : '',
            \is_int($proof['records'] ?? null) ? $proof['records'] : 0,
            is_numeric($proof['largest'] ?? null) ? (float) $proof['largest'] : 0.0,
            $made,
            $taken->isDraft(),
            $taken->takenBy(),
            $taken->createdAt()->format(\DATE_ATOM),
        );
    }
}
