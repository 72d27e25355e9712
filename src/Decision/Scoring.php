<?php

declare(strict_types=1);

namespace App\Decision;

use App\Study\InStudy;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Task\CutOff;

/** A batch: one table of new records scored by one trial's model. */
#[ORM\Entity]
class Scoring implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = 'waiting';

    #[ORM\Column(type: Types::TEXT, nullable: true)]
    private ?string $result = null;

    #[ORM\Column]
    private int $scored = 0;

    #[ORM\Column]
    private int $called = 0;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /** @param array<string, string> $matching asked column => found column */
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

    public function cutoff(): float
    {
        return $this->cutoff;
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

    /** @param list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> $lines one per row of the table */
    public function finish(array $lines): void
    {
        $this->state = 'done';
        $this->scored = \count(array_filter($lines, static fn (array $l) => null === $l['why']));
        $this->called = null === $this->study->event() ? 0 : \count(array_filter($lines, fn (array $l) => null !== $l['chance'] && CutOff::at($this->cutoff)->calls($l['chance'])));
        $this->result = base64_encode((string) gzdeflate(json_encode($lines, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), 6));
    }

    public function scored(): int
    {
        return $this->scored;
    }

    public function called(): int
    {
        return $this->called;
    }

    /** @return list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> */
    public function lines(): array
    {
        if (null === $this->result) {
            return [];
        }

        /** @var list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> */
        return json_decode((string) gzinflate((string) base64_decode($this->result, true)), true, 8, \JSON_THROW_ON_ERROR);
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
