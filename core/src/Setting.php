<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** One setting, of a step, a learner or whatever else can be set, described well enough that forms, the API document and the command line are made from it. */
final readonly class Setting implements \JsonSerializable
{
    public const NUMBER = 'number';
    public const WHOLE = 'whole number';
    public const CHOICE = 'choice';
    public const YES = 'yes/no';
    public const TEXT = 'text';
    public const COLUMNS = 'columns';
    public const COLUMN = 'column';
    public const NUMBERS = 'numbers';
    public const WORDS = 'words';
    public const CONDITIONS = 'conditions';
    public const RECODES = 'recodes';
    public const FORMULA = 'formula';

    /**
     * @param string                                  $label       what stands before the field
     * @param string                                  $type        one of the constants
     * @param bool|float|int|list<string>|string|null $default
     * @param string                                  $explanation one line: what more or less of it does
     * @param list<string>                            $choices     for a choice or words; of a text that names columns, what
     *                                                             a column is called that it does not name, and one it does
     * @param array<string, list<string>>             $when        asked only when another setting has one of these values
     * @param list<string>                            $tasks       what has to be predicted for it to matter; [] = whatever
     * @param list<string>                            $kinds       kinds of columns that may be chosen, or named in a text; any when empty
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $type,
        public bool|float|int|string|array|null $default = null,
        public string $explanation = '',
        public ?float $least = null,
        public ?float $most = null,
        public array $choices = [],
        public array $when = [],
        public array $tasks = [],
        public array $kinds = [],
    ) {
    }

    /** @return array<string, mixed> no conditions are an object without any, not a list */
    public function jsonSerialize(): array
    {
        $all = ['when' => (object) $this->when];
        foreach (get_object_vars($this) as $name => $value) {
            $all[(string) $name] ??= $value;
        }

        return $all;
    }
}
