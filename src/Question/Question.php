<?php

declare(strict_types=1);

namespace App\Question;

use App\Study\Study;
use App\Table\DataTable;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Stamp;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;

/**
 * What a study asks: of which table, what is predicted, how its rows are divided, and which of them are sealed. Each study has one, under
 * its own id.
 */
#[ORM\Entity]
class Question
{
    #[ORM\Id, ORM\Column]
    private int $id;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    #[ORM\ManyToOne(targetEntity: DataTable::class, fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', onDelete: 'SET NULL')]
    private ?DataTable $table = null;

    #[ORM\Column(length: 255, nullable: true)]
    private ?string $target = null;

    #[ORM\Column(length: 255, nullable: true)]
    private ?string $event = null;

    /** What is predicted: an event, one of several classes, or a number (Task). */
    #[ORM\Column(length: 20, options: ['default' => Task::TWO])]
    private string $task = Task::TWO;

    /** @var list<string>|null the classes in order, when there are several */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $classes = null;

    /** @var array{sealedShare: float, folds: int, repeats: int, seed: int, way?: string, column?: ?string, validation?: ?string, sealedValue?: ?string}|null */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $plan = null;

    /** Sealed rows of the table, packed as uint32. */
    #[ORM\Column(type: Types::TEXT, nullable: true)]
    private ?string $sealed = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE, nullable: true)]
    private ?\DateTimeImmutable $sealOpenedAt = null;

    /** Key of the figure that trials are ranked by; null = the usual one of the task. */
    #[ORM\Column(length: 60, nullable: true)]
    private ?string $figure = null;

    /** @var array<string, mixed>|null limits of the clearest finalist, and finalists chosen by hand */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $finalists = null;

    private ?string $hash = null;
    /** @var list<mixed> */
    private array $hashedOf = [];

    public function __construct(
        #[ORM\OneToOne(targetEntity: Study::class, fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', nullable: false, onDelete: 'CASCADE')]
        private Study $study,
    ) {
        $this->id = $study->id();
    }

    public function id(): int
    {
        return $this->id;
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function version(): int
    {
        return $this->version;
    }

    public function table(): ?DataTable
    {
        return $this->table;
    }

    /** The table that it is about; choosing another one drops the target. */
    public function useTable(DataTable $table): void
    {
        if ($this->table !== $table) {
            $this->target = $this->event = $this->plan = $this->sealed = $this->classes = $this->sealOpenedAt = null;
            $this->task = Task::TWO;
            $this->figure = null;
        }
        $this->table = $table;
    }

    /**
     * @param ?string       $event   null unless an event is predicted
     * @param ?list<string> $classes of several, in order
     * @param list<int>     $sealed
     */
    public function chooseTarget(string $column, string $task, ?string $event, ?array $classes, SplitPlan $plan, array $sealed): void
    {
        $was = $this->task;
        $this->target = $column;
        $this->task = $task;
        $this->event = $event;
        $this->classes = $classes;
        $this->plan = $plan->toArray();
        $this->sealed = base64_encode([] === $sealed ? '' : pack('V*', ...$sealed));
        $this->sealOpenedAt = null;
        // A figure of another task says nothing here.
        $this->figure = $was === $task ? $this->figure : null;
        $this->finalists = null;
    }

    public function target(): ?string
    {
        return $this->target;
    }

    public function event(): ?string
    {
        return $this->event;
    }

    public function task(): string
    {
        return $this->task;
    }

    /** @return ?list<string> the classes that learners tell apart; null for a number */
    public function classes(): ?array
    {
        return Task::TWO === $this->task ? ['no', 'yes'] : $this->classes;
    }

    /** The figure that trials are ranked by. */
    public function figure(): Figure
    {
        return $this->figureOf($this->task);
    }

    /** The same for answers to a task that may be of before. */
    public function figureOf(string $task): Figure
    {
        return null === $this->figure || $task !== $this->task ? Figures::ranking($task) : Figures::named($task, $this->figure);
    }

    /** @throws \InvalidArgumentException when the task has no such figure, or none can be ranked by it */
    public function rankBy(string $key): void
    {
        $figure = Figures::named($this->task, $key);
        if (!$figure->ranks) {
            throw new \InvalidArgumentException(\sprintf(
                'Trials cannot be ranked by %s: neither more nor less of it is better.',
                $figure->name,
            ));
        }
        $this->figure = $figure->key;
    }

    /** @return array<string, mixed> */
    public function finalists(): array
    {
        return $this->finalists ?? [];
    }

    /** @param array<string, mixed> $finalists */
    public function choose(array $finalists): void
    {
        $this->finalists = $finalists;
    }

    public function plan(): ?SplitPlan
    {
        return null === $this->plan ? null : SplitPlan::fromArray($this->plan);
    }

    /** @return list<int> rows of the table that stay sealed; asked by the Seal only, which says what that hides */
    public function sealedRows(): array
    {
        /** @var array<int, int> $rows */
        $rows = null === $this->sealed || '' === $this->sealed ? [] : (unpack('V*', (string) base64_decode($this->sealed, true)) ?: []);

        return array_values($rows);
    }

    public function sealedCount(): int
    {
        return null === $this->sealed ? 0 : intdiv(\strlen((string) base64_decode($this->sealed, true)), 4);
    }

    public function hasSealedRows(): bool
    {
        return null !== $this->sealed && '' !== $this->sealed;
    }

    /** From the first opening on, outcomes of sealed rows may be seen; nothing is ever learned from them. */
    public function openSeal(): void
    {
        $this->sealOpenedAt ??= new \DateTimeImmutable();
    }

    public function isSealOpened(): bool
    {
        return null !== $this->sealOpenedAt;
    }

    /** What figures depend on besides the trial's own settings; computed once, for sealed rows can be many. */
    public function hash(): string
    {
        $of = [
            $this->table?->fingerprint(),
            $this->target,
            $this->event,
            $this->plan,
            $this->sealed,
            ...(Task::TWO === $this->task ? [] : [$this->task, $this->classes]),
        ];
        if ($of !== $this->hashedOf || null === $this->hash) {
            $this->hash = Stamp::of($of);
            $this->hashedOf = $of;
        }

        return $this->hash;
    }
}
