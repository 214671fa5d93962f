import { Select, type SelectProps } from "antd";
import "./SearchSelect.css";

interface Props extends Omit<SelectProps<string>, "showSearch" | "loading" | "notFoundContent" | "open"> {
  search: string;
  onSearch: (search: string) => void;
  /** Whether the options still answer an earlier search. */
  isOld: boolean;
  /** What the list says where nothing answers. */
  nothing: string;
}

/** A choice among what the server finds. What answers an earlier search is not offered, and Enter waits for what answers this one. */
export function SearchSelect({ search, onSearch, isOld, nothing, options, ...rest }: Props) {
  return (
    <span className="search-select" onKeyDownCapture={(event) => isOld && event.key === "Enter" && event.stopPropagation()}>
      <Select
        {...rest}
        size="small"
        showSearch={{ searchValue: search, onSearch, filterOption: false }}
        loading={isOld}
        options={isOld ? [] : options}
        notFoundContent={isOld ? "Looking" : nothing}
      />
    </span>
  );
}
