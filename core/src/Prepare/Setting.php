<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** One setting of a step, described well enough to be asked for. */
final readonly class Setting
{
    public const COLUMNS = 'columns';
    public const COLUMN = 'column';
    public const CHOICE = 'choice';
    public const NUMBER = 'number';
    public const YES = 'yes/no';
    public const TEXT = 'text';
    public const NUMBERS = 'numbers';
    public const WORDS = 'words';
    public const CONDITIONS = 'conditions';
    public const RECODES = 'recodes';
    public const FORMULA = 'formula';

    /**
     * @param string                                  $type    one of the constants
     * @param list<string>                            $choices for a choice or words
     * @param bool|float|int|list<string>|string|null $default
     * @param list<string>                            $kinds   kinds of columns that may be chosen; any when empty
     * @param array<string, list<string>>             $when    asked only when another setting has one of these values
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $type,
        public array $choices = [],
        public bool|float|int|string|array|null $default = null,
        public ?float $least = null,
        public ?float $most = null,
        public array $kinds = [],
        public array $when = [],
        public string $help = '',
    ) {
    }
}
