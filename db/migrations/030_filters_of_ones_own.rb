# frozen_string_literal: true

# A filter that somebody keeps to themselves is unknown to everybody else, so that two may have the same name; and everybody sees whom a
# sequence is for, so that the filters it uses are shared.
Sequel.migration do
  keys = %w[filter_id filters without_filters].freeze
  spoken = ->(json) do
    case json
    when Array then json.flat_map(&spoken)
    when Hash then json.flat_map { |key, value| keys.include?(key) ? [value].flatten.grep(Integer) : spoken.call(value) }
    else []
    end
  end

  up do
    used = [*from(:sequences).select_map(:audience), *from(:sequences).select_map(:proposal), *from(:join_rules).select_map(:settings)]
    ids = used.compact.flat_map { |text| spoken.call(JSON.parse(text)) }.uniq
    from(:saved_filters).where(id: ids, shared: false).update(shared: true)

    alter_table(:saved_filters) do
      drop_index :name, name: :name
      add_column :seen_by, "BIGINT AS (IF(shared, 0, COALESCE(account_id, 0))) PERSISTENT"
      add_index %i[name seen_by], unique: true, name: :saved_filters_name
    end
  end

  down do
    alter_table(:saved_filters) do
      drop_index %i[name seen_by], name: :saved_filters_name
      drop_column :seen_by
      add_index :name, unique: true, name: :name
    end
  end
end
