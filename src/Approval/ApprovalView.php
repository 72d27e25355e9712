<?php

declare(strict_types=1);

namespace App\Approval;

/** An approval as it is read. */
final readonly class ApprovalView
{
    /**
     * @param list<string>                                                        $atRisk    groups that the cut-off serves worse than all
     *                                                                                       others, in sentences
     * @param array<string, mixed>                                                $evidence  as it was kept
     * @param string                                                              $stamp     fingerprint of evidence and model
     * @param bool                                                                $due       whether its day to look again has come
     * @param array{at: string, by: string, why: string}|null                     $withdrawn
     * @param list<array{again: string, at: string, by: string, verdict: string}> $later     days to look again that took the place of the
     *                                                                                       first
     */
    public function __construct(
        public int $id,
        public int $number,
        public ?int $trialId,
        public ?int $trialNumber,
        public string $title,
        public string $by,
        public string $sentence,
        public string $limits,
        public string $again,
        public bool $due,
        public string $rule,
        public float $cutoff,
        public array $evidence,
        public array $atRisk,
        public string $stamp,
        public ?array $withdrawn,
        public string $at,
        public array $later,
    ) {
    }

    public static function of(Approval $approval): self
    {
        $evidence = $approval->evidence();
        $trial = \is_array($evidence['trial'] ?? null) ? $evidence['trial'] : [];
        $prints = \is_array($evidence['fingerprints'] ?? null) ? $evidence['fingerprints'] : [];

        return new self(
            $approval->id(),
            $approval->number(),
            $approval->trial()?->id(),
            \is_int($trial['number'] ?? null) ? $trial['number'] : null,
            \is_string($trial['title'] ?? null) ? $trial['title'] : '',
            $approval->by(),
            $approval->sentence(),
            $approval->limits(),
            $approval->again()->format('Y-m-d'),
            $approval->again() <= new \DateTimeImmutable('today'),
            $approval->rule(),
            $approval->cutoff(),
            $evidence,
            self::atRisk($evidence),
            \is_string($prints['model'] ?? null) ? $prints['model'] : '',
            $approval->withdrawn(),
            $approval->createdAt()->format(\DATE_ATOM),
            $approval->later(),
        );
    }

    /**
     * @param array<string, mixed> $evidence
     *
     * @return list<string>
     */
    private static function atRisk(array $evidence): array
    {
        $says = [];
        foreach (\is_array($evidence['atRisk'] ?? null) ? $evidence['atRisk'] : [] as $group) {
            foreach (\is_array($group) && \is_array($group['says'] ?? null) ? $group['says'] : [] as $one) {
                $says[] = \is_string($one) ? $one : '';
            }
        }

        return array_values(array_filter($says, static fn (string $s): bool => '' !== $s));
    }
}
