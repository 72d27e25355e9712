<?php

declare(strict_types=1);

namespace App\Search;

use Dokimos\Core\Guide\Weighed;

/**
 * What a guided search was asked, and where it stands; with its counts it can be done again to the last bit.
 *
 * @phpstan-type Counts array{
 *     minutes: ?float, tries: int, ideas: ?int, room: list<?int>, reading: ?int, learners: list<string>, seed: int,
 *     steps: list<array<string, mixed>>,
 * }
 */
final readonly class Course
{
    public const MAKING = 'making';
    public const RUNGS = ['rung 1', 'rung 2', 'rung 3'];
    public const JUDGING = 'judging';
    public const DONE = 'done';
    /** Places of a rung begin with so many times its number. */
    public const STRIDE = 10000;

    /**
     * @param ?float                     $minutes  the deadline; null where the number of tries is given
     * @param int                        $tries    of the first rung: asked for, or what the deadline left room for
     * @param ?int                       $reading  leaves, rules or terms that the clear finalist may have
     * @param list<string>               $learners that may be used
     * @param list<array<string, mixed>> $steps    of the variant it begins with
     * @param list<string>               $inputs
     * @param list<Weighed>              $weighed  ideas
     * @param list<list<int>>            $rungs    of each rung that was begun the places of its tries, in the list of the first
     * @param int                        $judging  rows that no choice reads
     * @param int                        $choosing rows that choices are made on
     * @param list<array<string, mixed>> $finals   the best of each learner: place, searching, value, low, high, trialId
     * @param ?int                       $ideas    weighed at most; null = what the deadline leaves room for, or all
     * @param list<?int>                 $room     of each rung after the first: tries at most, 0 = it was not begun, null = no limit
     */
    public function __construct(
        public int $variantId,
        public ?float $minutes,
        public int $tries,
        public ?int $reading,
        public array $learners,
        public int $seed,
        public array $steps,
        public array $inputs,
        public float $begun,
        public string $stage = self::MAKING,
        public array $weighed = [],
        public array $rungs = [],
        public array $finals = [],
        public int $judging = 0,
        public int $choosing = 0,
        public ?int $ideas = null,
        public array $room = [],
    ) {
    }

    /** @param array<string, mixed> $changed */
    public function with(array $changed): self
    {
        /** @var array{variantId: int, minutes: ?float, tries: int, reading: ?int, learners: list<string>, seed: int, steps: list<array<string, mixed>>, inputs: list<string>, begun: float, stage: string, weighed: list<Weighed>, rungs: list<list<int>>, finals: list<array<string, mixed>>, judging: int, choosing: int, ideas: ?int, room: list<?int>} $all */
        $all = $changed + get_object_vars($this);

        return new self(...$all);
    }

    /** Seconds that are left until the deadline, of a share of all of them. */
    public function left(float $share = 1.0): float
    {
        return null === $this->minutes ? \INF : $this->begun + $share * 60 * $this->minutes - microtime(true);
    }

    /**
     * What it takes to do it again to the last bit: what was asked, and what the deadline left room for.
     *
     * @return Counts
     */
    public function counts(): array
    {
        return [
            'minutes' => $this->minutes,
            'tries' => $this->tries,
            'ideas' => $this->ideas,
            'room' => $this->room,
            'reading' => $this->reading,
            'learners' => $this->learners,
            'seed' => $this->seed,
            'steps' => $this->steps,
        ];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['weighed' => array_map(static fn (Weighed $w): array => $w->toArray(), $this->weighed)] + get_object_vars($this);
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        /** @var array{variantId: int, minutes: float|int|null, tries: int, reading: ?int, learners: list<string>, seed: int, steps: list<array<string, mixed>>, inputs: list<string>, begun: float|int, stage: string, weighed: list<array<string, mixed>>, rungs: list<list<int>>, finals: list<array<string, mixed>>, judging: int, choosing: int, ideas?: ?int, room?: list<?int>} $k */
        $k = $kept;

        return new self(
            $k['variantId'],
            null === $k['minutes'] ? null : (float) $k['minutes'],
            $k['tries'],
            $k['reading'],
            $k['learners'],
            $k['seed'],
            $k['steps'],
            $k['inputs'],
            (float) $k['begun'],
            $k['stage'],
            array_map(Weighed::fromArray(...), $k['weighed']),
            $k['rungs'],
            $k['finals'],
            $k['judging'],
            $k['choosing'],
            $k['ideas'] ?? null,
            $k['room'] ?? [],
        );
    }
}
