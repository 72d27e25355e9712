<?php

declare(strict_types=1);

namespace App\Service;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What one caller asked of one version on one day: counts, times, and how values lay. No value of a record is kept. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['service_id', 'version', 'token_id', 'day'])]
class ServiceTally
{
    /** Upper ends of classes of milliseconds; beyond the last all others. */
    public const TIMES = [1, 2, 3, 4, 5, 7, 10, 15, 20, 30, 50, 70, 100, 200, 500, 1000, 5000];

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column]
    private int $calls = 0;

    #[ORM\Column]
    private int $records = 0;

    #[ORM\Column]
    private int $refused = 0;

    /** @var array<int, int> calls by class of time */
    #[ORM\Column(type: Types::JSON)]
    private array $times = [];

    /** @var array<array-key, array<array-key, int>> records by column and class of value */
    #[ORM\Column(type: Types::JSON)]
    private array $columns = [];

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $lastAt;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Service $service,
        #[ORM\Column]
        private int $version,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private ServiceToken $token,
        #[ORM\Column(length: 10)]
        private string $day,
    ) {
        $this->lastAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    /** @param array<array-key, array<array-key, int>> $columns */
    public function add(int $records, int $refused, float $milliseconds, array $columns, \DateTimeImmutable $at): void
    {
        ++$this->calls;
        $this->records += $records;
        $this->refused += $refused;
        $class = \count(array_filter(self::TIMES, static fn (int $end): bool => $milliseconds > $end));
        $this->times[$class] = ($this->times[$class] ?? 0) + 1;
        foreach ($columns as $name => $own) {
            foreach ($own as $k => $n) {
                $this->columns[$name][$k] = ($this->columns[$name][$k] ?? 0) + $n;
            }
        }
        $this->lastAt = $at;
    }

    public function service(): Service
    {
        return $this->service;
    }

    public function version(): int
    {
        return $this->version;
    }

    public function token(): ServiceToken
    {
        return $this->token;
    }

    public function day(): string
    {
        return $this->day;
    }

    public function calls(): int
    {
        return $this->calls;
    }

    public function records(): int
    {
        return $this->records;
    }

    public function refused(): int
    {
        return $this->refused;
    }

    /** @return array<int, int> */
    public function times(): array
    {
        return $this->times;
    }

    /** @return array<array-key, array<array-key, int>> */
    public function columns(): array
    {
        return $this->columns;
    }

    public function lastAt(): \DateTimeImmutable
    {
        return $this->lastAt;
    }
}
