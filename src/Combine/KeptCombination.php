<?php

declare(strict_types=1);

namespace App\Combine;

use App\Table\DataTable;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Combine\Combination;
use Dokimos\Core\Combine\KnownCombinations;

/** The combination by which a table was made from others; it can be followed again with new records. */
#[ORM\Entity, ORM\Table(name: 'combination')]
class KeptCombination
{
    /** @param array<string, mixed> $combination */
    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private DataTable $source,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'CASCADE')]
        private ?DataTable $other,
        #[ORM\Column(type: Types::JSON)]
        private array $combination,
    ) {
    }

    public function table(): DataTable
    {
        return $this->table;
    }

    public function source(): DataTable
    {
        return $this->source;
    }

    public function other(): ?DataTable
    {
        return $this->other;
    }

    public function combination(): Combination
    {
        return KnownCombinations::fromArray($this->combination);
    }
}
