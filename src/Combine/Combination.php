<?php

declare(strict_types=1);

namespace App\Combine;

use App\Table\DataTable;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Combine\Recipe;
use Dokimos\Core\Combine\Recipes;

/** The recipe by which a table was made from others; it can be followed again with new records. */
#[ORM\Entity]
class Combination
{
    /** @param array<string, mixed> $recipe */
    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private DataTable $source,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'CASCADE')]
        private ?DataTable $other,
        #[ORM\Column(type: Types::JSON)]
        private array $recipe,
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

    public function recipe(): Recipe
    {
        return Recipes::fromArray($this->recipe);
    }
}
