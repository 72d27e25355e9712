<?php

declare(strict_types=1);

namespace App\Finding;

use App\Table\DataTable;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What was found in a table, kept until something it depends on changes. */
#[ORM\Entity]
#[ORM\Table(name: 'finding_document')]
class FoundDocument
{
    /** @param array<string, mixed> $found */
    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\Column(length: 64)]
        private string $stamp,
        #[ORM\Column(type: Types::JSON)]
        private array $found,
    ) {
    }

    public function table(): DataTable
    {
        return $this->table;
    }

    public function stamp(): string
    {
        return $this->stamp;
    }

    /** @return array<string, mixed> */
    public function found(): array
    {
        return $this->found;
    }
}
