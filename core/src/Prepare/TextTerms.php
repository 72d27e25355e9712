<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\Terms;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Makes a column of each of the words that stand in enough texts of the training rows. */
final readonly class TextTerms implements Step
{
    public const PRESENCE = 'whether it stands there';
    public const COUNT = 'how often';
    public const WEIGHT = 'tf-idf weight';

    public function __construct(private string $column, private string $as, private int $most, private float $least, private float $upTo, private bool $pairs, private bool $stop, private bool $keep)
    {
    }

    public static function described(): Described
    {
        return new Described('text_terms', 'Words of a text', 'columns', 'Makes a column of each word that stands in enough texts of the training rows.', [
            new Setting('column', 'Text', Setting::COLUMN, kinds: [Kind::Text->value, Kind::Category->value]),
            new Setting('as', 'as', Setting::CHOICE, choices: [self::PRESENCE, self::COUNT, self::WEIGHT], default: self::PRESENCE),
            new Setting('most', 'at most so many words', Setting::NUMBER, default: 30, least: 1, most: 500),
            new Setting('least', 'in at least this share of the texts', Setting::NUMBER, default: 0.01, least: 0.0, most: 1.0),
            new Setting('up_to', 'in at most this share', Setting::NUMBER, default: 0.8, least: 0.0, most: 1.0),
            new Setting('pairs', 'neighboring pairs of words too', Setting::YES, default: false),
            new Setting('stop', 'leave out words such as "the" and "and"', Setting::YES, default: true),
            new Setting('keep', 'keep the text itself', Setting::YES, default: false),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->required('column', 'Choose the text.'), $given->choice('as', [self::PRESENCE, self::COUNT, self::WEIGHT]), $given->whole('most', 30, 1, 500), $given->number('least', 0.01, 0.0, 1.0), $given->number('up_to', 0.8, 0.0, 1.0), $given->yes('pairs'), $given->yes('stop', true), $given->yes('keep'));
    }

    public function toArray(): array
    {
        return ['step' => 'text_terms', 'column' => $this->column, 'as' => $this->as, 'most' => $this->most, 'least' => $this->least, 'up_to' => $this->upTo, 'pairs' => $this->pairs, 'stop' => $this->stop, 'keep' => $this->keep];
    }

    /** @throws CannotPrepare … holds …; words are taken from texts and categories. */
    public function fit(Lesson $lesson): FittedTerms
    {
        $column = $lesson->table->has($this->column) ? $lesson->table->column($this->column) : throw Chosen::absent($this->column);
        if (!\in_array($column->kind(), [Kind::Text, Kind::Category], true)) {
            throw new CannotPrepare(\sprintf('%s holds %s; words are taken from texts and categories.', $this->column, $column->kind()->value));
        }
        $documents = 0;
        $in = [];
        foreach ($lesson->rows as $row) {
            $text = $column->text($row);
            if (null === $text) {
                continue;
            }
            ++$documents;
            foreach (array_keys(array_count_values(self::split($text, $this->pairs, $this->stop))) as $term) {
                $in[$term] = ($in[$term] ?? 0) + 1;
            }
        }
        $in = array_filter($in, fn (int $n) => $n >= $this->least * $documents && $n <= $this->upTo * $documents);
        $terms = array_map(strval(...), array_keys($in));
        // The most frequent, ties by the alphabet; then in the order of the alphabet.
        usort($terms, static fn (string $a, string $b) => $in[$b] <=> $in[$a] ?: strcmp($a, $b));
        $terms = \array_slice($terms, 0, $this->most);
        sort($terms, \SORT_STRING);
        $idf = [];
        foreach ($terms as $term) {
            $idf[$term] = log((1 + $documents) / (1 + $in[$term])) + 1.0;
        }

        return new FittedTerms($this->column, $idf, $this->as, $this->pairs, $this->stop, $this->keep);
    }

    /** @return list<string> words in the order of the text, lower case */
    public static function split(string $text, bool $pairs, bool $stop): array
    {
        $words = Terms::split($text);
        if ($stop) {
            $words = array_values(array_filter($words, static fn (string $w) => !isset(StopWords::ENGLISH[$w])));
        }
        $out = $words;
        for ($i = 1; $pairs && $i < \count($words); ++$i) {
            $out[] = $words[$i - 1].' '.$words[$i];
        }

        return $out;
    }
}
