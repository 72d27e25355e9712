<?php

declare(strict_types=1);

namespace App\Recheck;

use App\Study\InStudy;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A model held against newer records: what was asked, and what was told. */
#[ORM\Entity, ORM\Table(name: 'recheck')]
class Rechecked implements InStudy
{
    public const WAITING = 'waiting';
    public const DONE = 'done';
    public const FAILED = 'failed';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @var self::WAITING|self::DONE|self::FAILED */
    #[ORM\Column(length: 20)]
    private string $state = self::WAITING;

    #[ORM\Column(length: 30, options: ['default' => ''])]
    private string $verdict = '';

    /** @var array<string, mixed>|null */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $told = null;

    #[ORM\Column(length: 400, nullable: true)]
    private ?string $failure = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /** @param array{by: ?string, matters: ?float, cutoff: ?float, groups: list<string>} $asked */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\Column]
        private int $number,
        #[ORM\Column(type: Types::JSON)]
        private array $asked,
        #[ORM\Column(length: 120)]
        private string $doneBy,
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

    public function number(): int
    {
        return $this->number;
    }

    /** @return array{by: ?string, matters: ?float, cutoff: ?float, groups: list<string>} */
    public function asked(): array
    {
        return $this->asked;
    }

    public function isWaiting(): bool
    {
        return self::WAITING === $this->state;
    }

    public function verdict(): string
    {
        return $this->verdict;
    }

    /** @return array<string, mixed> */
    public function told(): array
    {
        return $this->told ?? [];
    }

    /** @param array<string, mixed> $told */
    public function finish(string $verdict, array $told): void
    {
        [$this->state, $this->verdict, $this->told] = [self::DONE, $verdict, $told];
    }

    public function fail(string $why): void
    {
        [$this->state, $this->failure] = [self::FAILED, mb_substr($why, 0, 400)];
    }

    public function view(): RecheckView
    {
        return new RecheckView(
            $this->id(),
            $this->number,
            $this->state,
            $this->verdict,
            $this->failure,
            $this->trial->id(),
            $this->trial->number(),
            $this->trial->learner(),
            $this->table->id(),
            $this->table->name(),
            $this->table->rows(),
            $this->asked['by'],
            $this->doneBy,
            $this->createdAt->format(\DATE_ATOM),
            (object) $this->told(),
        );
    }
}
