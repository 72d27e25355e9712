<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Task\CutOff;
use Symfony\Component\Validator\Constraints as Assert;

/** What a routine does each time: what it reads, how columns are matched, what it writes, and when. */
final readonly class RoutinePlan
{
    public const NEVER = 'by hand';
    public const DAILY = 'every day';
    public const WEEKLY = 'every week';

    /**
     * @param string                $table    name of the table that is scored: its newest edition
     * @param array<string, string> $matching asked column => found column, by hand
     * @param string                $keepAs   name of the table that scored records become; empty = none
     * @param string                $answer   name of the answer in it; empty = the target's
     * @param ?DecisionTerms        $terms    of the list that is made; null = none
     * @param ?ExportRequest        $export   of the list; null = none
     * @param string                $when     by hand, every day or every week
     * @param array<string, string> $answers  by column what becomes of values beyond training
     * @param int                   $hour     of the day, for those that come by themselves
     * @param bool                  $recheck  whether the model is held against the records, where their outcomes are known
     */
    public function __construct(
        #[Assert\NotBlank(message: 'Name the table that is scored.'), Assert\Length(max: 120)]
        public string $table = '',
        public array $matching = [],
        #[Assert\Range(min: 0.000001, max: 1, notInRangeMessage: 'A cut-off lies above 0 and not above 100%.')]
        public float $cutoff = 0.5,
        #[Assert\Length(max: 120)]
        public string $keepAs = '',
        #[Assert\Length(max: 60)]
        public string $answer = '',
        #[Assert\Valid]
        public ?DecisionTerms $terms = null,
        #[Assert\Valid]
        public ?ExportRequest $export = null,
        #[Assert\Choice([self::NEVER, self::DAILY, self::WEEKLY], message: 'By hand, every day or every week.')]
        public string $when = self::NEVER,
        #[Assert\Range(min: 0, max: 23, notInRangeMessage: 'An hour is 0 to 23.')]
        public int $hour = 5,
        public array $answers = [],
        public bool $recheck = false,
    ) {
    }

    public function cutOff(): CutOff
    {
        return CutOff::at($this->cutoff);
    }

    /** When it is due next after a moment; null where it comes by hand. */
    public function next(\DateTimeImmutable $after): ?\DateTimeImmutable
    {
        if (self::NEVER === $this->when) {
            return null;
        }
        $next = $after->setTime($this->hour, 0);
        $step = self::DAILY === $this->when ? '+1 day' : '+7 days';

        return $next > $after ? $next : $next->modify($step);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'terms' => $this->terms?->toArray(),
            'export' => null === $this->export ? null : get_object_vars($this->export),
        ] + get_object_vars($this);
    }

    /** @param array<string, mixed> $kept what toArray() gave, from the store */
    public static function fromArray(array $kept): self
    {
        /**
         * @var array{
         *     table: string,
         *     matching: array<string, string>,
         *     cutoff: float|int,
         *     keepAs: string,
         *     answer: string,
         *     terms: ?array<string, mixed>,
         *     export: ?array<string, mixed>,
         *     when: string,
         *     hour: int,
         *     answers?: array<string, string>,
         *     recheck?: bool
         * } $kept
         */
        $export = $kept['export'];
        /** @var list<array{of: string, as: string}> $columns */
        $columns = $export['columns'] ?? [];

        return new self(
            $kept['table'],
            $kept['matching'],
            (float) $kept['cutoff'],
            $kept['keepAs'],
            $kept['answer'],
            null === $kept['terms'] ? null : DecisionTerms::fromArray($kept['terms']),
            null === $export ? null : new ExportRequest(
                \is_int($export['connectionId'] ?? null) ? $export['connectionId'] : null,
                \is_string($export['table'] ?? null) ? $export['table'] : '',
                \is_string($export['mode'] ?? null) ? $export['mode'] : 'create',
                \is_string($export['key'] ?? null) ? $export['key'] : null,
                \is_string($export['which'] ?? null) ? $export['which'] : 'acted',
                array_map(static fn (array $c): TakenColumn => new TakenColumn($c['of'], $c['as']), $columns),
            ),
            $kept['when'],
            $kept['hour'],
            $kept['answers'] ?? [],
            $kept['recheck'] ?? false,
        );
    }
}
