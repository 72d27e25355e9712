<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Study\InStudy;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A table that a model scores, or scored, where it lies. */
#[ORM\Entity]
class ScoredInside implements InStudy
{
    public const RUNNING = 'running';
    public const DONE = 'done';
    public const FAILED = 'failed';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @var self::RUNNING|self::DONE|self::FAILED */
    #[ORM\Column(length: 20)]
    private string $state = self::RUNNING;

    #[ORM\Column(name: 'row_count')]
    private int $rows = 0;

    #[ORM\Column]
    private float $seconds = 0.0;

    #[ORM\Column(type: Types::TEXT)]
    private string $says = '';

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param string       $place      where it lies, in words
     * @param int          $connection 0 = the company database that ships with the app
     * @param string       $source     a table, or a query
     * @param list<string> $carried    columns that come along
     * @param bool         $draft      whether nobody had approved the trial
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\Column(length: 300)]
        private string $place,
        #[ORM\Column]
        private int $connection,
        #[ORM\Column(type: Types::TEXT)]
        private string $source,
        #[ORM\Column(type: Types::JSON)]
        private array $carried,
        #[ORM\Column(length: 130)]
        private string $target,
        #[ORM\Column]
        private bool $draft,
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

    public function connection(): int
    {
        return $this->connection;
    }

    public function place(): string
    {
        return $this->place;
    }

    public function source(): string
    {
        return $this->source;
    }

    /** @return list<string> */
    public function carried(): array
    {
        return $this->carried;
    }

    public function target(): string
    {
        return $this->target;
    }

    public function isDraft(): bool
    {
        return $this->draft;
    }

    public function isRunning(): bool
    {
        return self::RUNNING === $this->state;
    }

    public function done(int $rows, float $seconds, string $says): void
    {
        [$this->state, $this->rows, $this->seconds, $this->says] = [self::DONE, $rows, $seconds, $says];
    }

    public function fail(string $why): void
    {
        [$this->state, $this->says] = [self::FAILED, $why];
    }

    public function view(): InsideView
    {
        return new InsideView(
            $this->id(),
            $this->state,
            $this->place,
            $this->source,
            $this->target,
            $this->rows,
            $this->seconds,
            $this->says,
            $this->draft,
            $this->doneBy,
            $this->createdAt->format(\DATE_ATOM),
        );
    }
}
