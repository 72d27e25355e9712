<?php

declare(strict_types=1);

namespace App\Score;

use App\Study\InStudy;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Decide\ScoredColumns;

/**
 * A batch: one table of new records scored by one trial's model.
 *
 * @phpstan-type Group array{says: string, records: int, answer?: float, effects?: array<array-key, float>}
 * @phpstan-type Summary array{
 *     histogram?: list<int>,
 *     expected?: float|int,
 *     classes?: array<array-key, int>,
 *     lowest?: float|int|null,
 *     highest?: float|int|null,
 *     mean?: float|int|null
 * }
 * @phpstan-type About array{target: string, event: string, task: string, classes: list<string>, answers?: array<string, string>}
 * @phpstan-type Because array{sentences: array<array-key, string>, groups: list<Group>, looked: int}
 */
#[ORM\Entity]
class Scoring implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = 'waiting';

    /** What was said of each record. */
    #[ORM\OneToOne(cascade: ['persist', 'remove']), ORM\JoinColumn(name: 'answers_id', nullable: true, onDelete: 'SET NULL')]
    private ?DataTable $answers = null;

    /** @var Summary of all records, once done */
    #[ORM\Column(type: Types::JSON)]
    private array $summary = [];

    /** @var Because|null why records have their answers */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $because = null;

    #[ORM\Column]
    private int $scored = 0;

    #[ORM\Column]
    private int $called = 0;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param array $matching asked column => found column
     * @param array $about    what the model answers
     * @param bool  $handed   whether the model fitted on all records scores
     *
     * @phpstan-param array<string, string> $matching
     * @phpstan-param About                 $about
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\Column(type: Types::JSON)]
        private array $matching,
        #[ORM\Column]
        private float $cutoff,
        #[ORM\Column(type: Types::JSON)]
        private array $about,
        #[ORM\Column(options: ['default' => false])]
        private bool $handed = false,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function trial(): Trial
    {
        return $this->trial;
    }

    public function table(): DataTable
    {
        return $this->table;
    }

    /** @return array<string, string> */
    public function matching(): array
    {
        return $this->matching;
    }

    /** Whether the model fitted once more on all records scored it, instead of the one that was judged. */
    public function isByHanded(): bool
    {
        return $this->handed;
    }

    public function cutoff(): float
    {
        return $this->cutoff;
    }

    /** @return Because|null by number of the record, from 1 */
    public function because(): ?array
    {
        return $this->because;
    }

    /** @param Because $because */
    public function explain(array $because): void
    {
        $this->because = $because;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function fail(): void
    {
        $this->state = 'failed';
    }

    public function cancel(): void
    {
        $this->state = 'cancelled';
    }

    public function target(): string
    {
        return $this->about['target'];
    }

    public function event(): string
    {
        return $this->about['event'];
    }

    public function task(): string
    {
        return $this->about['task'];
    }

    /** @return list<string> of several; none for an event or a number */
    public function classes(): array
    {
        return $this->about['classes'];
    }

    /** @return array<string, string> by column what becomes of values beyond training */
    public function settled(): array
    {
        return $this->about['answers'] ?? [];
    }

    /** The columns that its answers have. */
    public function columns(): ScoredColumns
    {
        return ScoredColumns::of($this->target(), $this->task(), $this->classes());
    }

    public function answerIn(DataTable $answers): void
    {
        $this->answers = $answers;
    }

    public function answers(): DataTable
    {
        return $this->answers ?? throw new \LogicException('A batch that was begun has a table for its answers.');
    }

    public function isDone(): bool
    {
        return 'done' === $this->state;
    }

    /** @param array{histogram: list<int>, expected: float, classes: array<array-key, int>, lowest: ?float, highest: ?float, mean: ?float} $summary */
    public function finish(int $scored, int $called, array $summary): void
    {
        $this->state = 'done';
        $this->scored = $scored;
        $this->called = $called;
        $this->summary = $summary;
    }

    /** @return Summary */
    public function summary(): array
    {
        return $this->summary;
    }

    public function scored(): int
    {
        return $this->scored;
    }

    public function called(): int
    {
        return $this->called;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
